/** Starts the game: the farm on a canvas, and the panel beside it. */
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { Session } from "./session";
import "./style.css";

createRoot(document.getElementById("root")!).render(<App session={new Session()} />);
