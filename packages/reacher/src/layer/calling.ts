/** Calls several listeners: those after one that throws are called all the same, and then the first error is thrown on. */
export function callEach<T>(all: Iterable<T>, call: (one: T) => void): void {
  let first: { readonly error: unknown } | undefined;
  for (const one of all)
    try {
      call(one);
    } catch (error) {
      first ??= { error };
    }
  if (first !== undefined) throw first.error;
}
