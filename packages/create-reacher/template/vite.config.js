import { reacher } from "reacher/vite";

export default { base: "./", plugins: [reacher()], build: { target: "es2022" } };
