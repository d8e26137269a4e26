/** Style sheets as text, where they are bundled so. */
declare module "*.css" {
  const text: string;
  export default text;
}
