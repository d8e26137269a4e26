/** Completions and hovers for plans, from the JSON Schema. In: text and a position in it. Out: these. */
import type { Completion, CompletionContext, CompletionResult } from "@codemirror/autocomplete";
import type { EditorView, Tooltip } from "@codemirror/view";
import {
  getLanguageService,
  TextDocument,
  type CompletionItem,
  type JSONSchema,
  type LanguageService,
  type MarkedString,
} from "vscode-json-languageservice";

const ADDRESS = "inmemory://plan.json";
const SCHEMA = "inmemory://schema.json";

export class PlanLanguage {
  private readonly service: LanguageService;

  constructor(schema: object) {
    // Nothing is fetched: the schema came with the page.
    this.service = getLanguageService({
      schemaRequestService: () => Promise.reject(new Error("nothing is fetched")),
    });
    this.service.configure({ schemas: [{ uri: SCHEMA, fileMatch: ["*"], schema: schema as JSONSchema }] });
  }

  readonly complete = async ({
    state,
    pos,
    explicit,
  }: CompletionContext): Promise<CompletionResult | null> => {
    const text = state.doc.toString();
    if (!explicit && !/["\w]/.test(text[pos - 1] ?? "")) return null;
    const { document, json } = this.read(text);
    const list = await this.service.doComplete(document, document.positionAt(pos), json);
    const items = list?.items ?? [];
    if (items.length === 0) return null;
    const starts = items.map(({ textEdit }) =>
      textEdit && "range" in textEdit ? document.offsetAt(textEdit.range.start) : pos,
    );
    return {
      from: Math.min(...starts),
      options: items.map((item) => completionOf(item, document, pos)),
      filter: true,
    };
  };

  readonly hover = async (view: EditorView, pos: number): Promise<Tooltip | null> => {
    const { document, json } = this.read(view.state.doc.toString());
    const found = await this.service.doHover(document, document.positionAt(pos), json);
    const words = found === null ? "" : [found.contents].flat().map(wordsOf).join("\n");
    if (words === "") return null;
    return {
      pos: found!.range ? document.offsetAt(found!.range.start) : pos,
      create: () => {
        const dom = document_.createElement("div");
        dom.className = "hover";
        // As text: a label from a file is never markup.
        dom.textContent = words;
        return { dom };
      },
    };
  };

  private read(text: string) {
    const document = TextDocument.create(ADDRESS, "json", 0, text);
    return { document, json: this.service.parseJSONDocument(document) };
  }
}

const document_ = globalThis.document;

function completionOf(item: CompletionItem, document: TextDocument, pos: number): Completion {
  const { label, textEdit, documentation, detail } = item;
  const text = textEdit?.newText ?? item.insertText ?? label;
  const info = typeof documentation === "string" ? documentation : documentation?.value;
  return {
    label: text.startsWith('"') ? `"${label.replace(/^"|"$/g, "")}"` : label,
    displayLabel: label,
    ...(detail !== undefined && { detail }),
    ...(info !== undefined && info !== "" && { info }),
    apply: (view, _, from, to) => {
      const end =
        textEdit && "range" in textEdit ? Math.max(to, document.offsetAt(textEdit.range.end) + to - pos) : to;
      // Snippet placeholders are for other editors.
      const plain = text.replace(/\$\{\d+:([^}]*)\}|\$\d+/g, "$1");
      view.dispatch({
        changes: { from, to: Math.min(end, view.state.doc.length), insert: plain },
        selection: { anchor: from + plain.length },
      });
    },
  };
}

function wordsOf(contents: MarkedString | { readonly value: string }): string {
  return (typeof contents === "string" ? contents : contents.value).replace(/\\([-_*`[\]().!])/g, "$1");
}
