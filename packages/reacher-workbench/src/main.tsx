/** The workbench of one plan. */
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { readServed, watchFile } from "./server";
import { Session } from "./session";
import "./style.css";

const root = createRoot(document.getElementById("root")!);
try {
  const session = new Session(await readServed());
  watchFile(
    (text, version) => session.fileChanged(text, version),
    (isThere) => session.hearServer(isThere),
  );
  addEventListener("beforeunload", (event) => {
    if (!session.isSaved) event.preventDefault();
  });
  root.render(<App session={session} />);
} catch (error) {
  root.render(
    <p className="fault">{`The plan could not be read: ${(error as Error).message}. Is "reacher try" still running?`}</p>,
  );
}
