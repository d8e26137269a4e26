/** The plan as text, what is wrong with it underlined where it is; and new actions, by a form. */
import { autocompletion, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { json } from "@codemirror/lang-json";
import { bracketMatching, HighlightStyle, indentOnInput, syntaxHighlighting } from "@codemirror/language";
import { lintGutter, lintKeymap, setDiagnostics, type Diagnostic } from "@codemirror/lint";
import { EditorState, Transaction } from "@codemirror/state";
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  hoverTooltip,
  keymap,
  lineNumbers,
} from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { useEffect, useRef } from "react";
import { Button } from "react-aria-components";
import { NewAction } from "./NewAction";
import type { Session } from "./session";
import { PlanLanguage } from "./text/language";
import { useSession } from "./useSession";

const COLOURS = HighlightStyle.define([
  { tag: tags.propertyName, color: "var(--key)" },
  { tag: tags.string, color: "var(--string)" },
  { tag: [tags.number, tags.bool, tags.null], color: "var(--number)" },
  { tag: tags.invalid, color: "var(--bad)" },
]);

export function TextTab({ session }: { session: Session }) {
  useSession(session);
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const { findings } = session.read;

  useEffect(() => {
    const language = new PlanLanguage(session.schema);
    const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? "";
    const editor = new EditorView({
      parent: host.current!,
      state: EditorState.create({
        doc: session.text,
        extensions: [
          EditorView.cspNonce.of(nonce),
          lineNumbers(),
          history(),
          drawSelection(),
          indentOnInput(),
          bracketMatching(),
          highlightActiveLine(),
          json(),
          syntaxHighlighting(COLOURS),
          lintGutter(),
          autocompletion({ override: [language.complete] }),
          hoverTooltip(language.hover),
          keymap.of([...completionKeymap, ...lintKeymap, ...historyKeymap, ...defaultKeymap]),
          EditorView.contentAttributes.of({ "aria-label": "The plan's text" }),
          EditorView.updateListener.of(({ docChanged, state, transactions }) => {
            if (
              docChanged &&
              !transactions.every((transaction) => transaction.annotation(Transaction.remote) === true)
            )
              session.setText(state.doc.toString());
          }),
        ],
      }),
    });
    view.current = editor;
    // A long plan is scrolled by keys alone, too.
    editor.scrollDOM.tabIndex = 0;
    return () => editor.destroy();
  }, [session]);

  // Changes by a slider or another editor are applied to the document, limited to the part that differs.
  useEffect(() => {
    const editor = view.current!;
    const had = editor.state.doc.toString();
    if (had !== session.text)
      editor.dispatch({ changes: differenceOf(had, session.text), annotations: Transaction.remote.of(true) });
    const marks = findings.map(({ from, to, severity, place, message }): Diagnostic => ({
      from: Math.min(from, session.text.length),
      to: Math.min(to, session.text.length),
      severity: severity === "hint" ? "info" : severity,
      message: place === "" ? message : `${place}: ${message}`,
    }));
    editor.dispatch(setDiagnostics(editor.state, marks));
  }, [session.text, findings]);

  const go = (from: number) => {
    const editor = view.current!;
    editor.dispatch({ selection: { anchor: from }, scrollIntoView: true });
    editor.focus();
  };
  return (
    <div className="text">
      <div className="editor" ref={host} />
      <ul className="findings" aria-label="Findings" data-testid="findings">
        {findings.length === 0 && <li>No findings.</li>}
        {findings.map(({ severity, place, message, from, line }, n) => (
          <li key={n} className={severity}>
            <Button
              onPress={() => go(from)}
            >{`${severity}, line ${line}: ${place === "" ? "" : `${place}: `}${message}`}</Button>
          </li>
        ))}
      </ul>
      <NewAction session={session} />
    </div>
  );
}

/** The one range in which two texts differ. */
function differenceOf(had: string, text: string) {
  let from = 0;
  while (from < had.length && had[from] === text[from]) from++;
  let [to, end] = [had.length, text.length];
  while (to > from && end > from && had[to - 1] === text[end - 1]) [to, end] = [to - 1, end - 1];
  return { from, to, insert: text.slice(from, end) };
}
