// Reads pairs of programs, each a line of JSON, and says of each whether the TypeScript compiler finds
// the same in both: "same", "unread" where it cannot read the first one, or what differs.

const ts = require("typescript");
const lines = require("readline").createInterface({ input: process.stdin });

const KINDS = {
  js: ts.ScriptKind.JSX,
  jsx: ts.ScriptKind.JSX,
  mjs: ts.ScriptKind.JSX,
  cjs: ts.ScriptKind.JSX,
  ts: ts.ScriptKind.TS,
  mts: ts.ScriptKind.TS,
  cts: ts.ScriptKind.TS,
  tsx: ts.ScriptKind.TSX,
};

// What stands between statements is no part of the program.
const EMPTY = new Set([ts.SyntaxKind.EmptyStatement, ts.SyntaxKind.SemicolonClassElement]);

function tree(text, kind) {
  const file = ts.createSourceFile(`a.${kind}`, text, ts.ScriptTarget.Latest, false, KINDS[kind]);
  if (file.parseDiagnostics.length > 0) {
    return { error: ts.flattenDiagnosticMessageText(file.parseDiagnostics[0].messageText, " ") };
  }
  const out = [];
  const visit = (node) => {
    if (EMPTY.has(node.kind)) return;
    // Blanks with a line break among markup are not shown.
    if (node.kind === ts.SyntaxKind.JsxText && node.containsOnlyTriviaWhiteSpaces) return;
    // Braces around one statement are what a canon may ask for.
    const isLone = node.kind === ts.SyntaxKind.Block &&
      node.statements.length === 1 &&
      node.statements[0].kind !== ts.SyntaxKind.VariableStatement;
    if (!isLone) out.push(node.kind);
    if (node.kind === ts.SyntaxKind.JsxText) {
      out.push(node.text.split("\n").map((l) => l.trim()).filter(Boolean).join(" "));
    } else if (typeof node.text === "string" && node.kind !== ts.SyntaxKind.SourceFile) {
      out.push(node.text);
    }
    ts.forEachChild(node, visit);
    if (!isLone) out.push("/");
  };
  visit(file);
  return { out };
}

lines.on("line", (line) => {
  const { kind, texts } = JSON.parse(line);
  const [before, after] = texts.map((text) => tree(text, kind));
  if (before.error) return console.log("unread");
  if (after.error) return console.log(`no program any more: ${after.error}`.replaceAll("\n", " "));
  const at = before.out.findIndex((word, index) => word !== after.out[index]);
  if (at < 0 && before.out.length === after.out.length) return console.log("same");
  const shown = (words) => JSON.stringify(words.slice(Math.max(at - 8, 0), at + 8));
  console.log(`${shown(before.out)} became ${shown(after.out)}`);
});
