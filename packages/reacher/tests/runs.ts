/**
 * How often random tests try: each says how many runs take it a second or so, and `RUNS=10 npx jest -- FILE` makes ten times as many.
 * Seeds are fresh; what fails prints its own, and `SEED=...` tries it again.
 */
const FACTOR = Number(process.env["RUNS"] ?? 1);
const SEED = Number(process.env["SEED"] ?? Date.now() % 2 ** 31);
if (FACTOR > 1 || "SEED" in process.env) process.stderr.write(`random runs: RUNS=${FACTOR} SEED=${SEED}\n`);

export const runs = (usual: number) => ({ numRuns: Math.ceil(FACTOR * usual), seed: SEED });
