"""A real client of the Language Server Protocol, without a screen: opens a file, edits it, saves it, and
sees that the touched lines are mended and the rest is as it was.

Usage: client.py KANONIX, in an environment with the package pygls.
"""

import asyncio
import pathlib
import subprocess
import sys
import tempfile

from lsprotocol import types
from pygls.lsp.client import LanguageClient

OLD = "a = 'ebb'\nb=1\n\n\ndef flood(level):\n    return level*2\n"
TYPED = "a='slack'\n"
MENDED = "a = \"slack\"\n"


def git(folder, *words):
    name = ["-c", "user.name=Keeper", "-c", "user.email=keeper@saltmarsh.example"]
    subprocess.run(["git", *name, *words], cwd=folder, check=True)


def applied(text, edits):
    """The text after some edits, places in UTF-16 on lines without wide characters."""
    lines = text.splitlines(keepends=True)
    starts = [sum(map(len, lines[:number])) for number in range(len(lines) + 1)]

    def offset(place):
        return starts[place.line] + place.character

    for edit in reversed(edits or []):
        start, end = offset(edit.range.start), offset(edit.range.end)
        text = text[:start] + edit.new_text + text[end:]
    return text


async def session(program, folder):
    client = LanguageClient("lookout", "1")
    shown = asyncio.Queue()

    @client.feature(types.TEXT_DOCUMENT_PUBLISH_DIAGNOSTICS)
    def show(params):
        shown.put_nowait(params)

    await client.start_io(program, "lsp")
    await client.initialize_async(
        types.InitializeParams(
            capabilities=types.ClientCapabilities(),
            client_info=types.ClientInfo(name="lookout", version="1"),
            root_uri=folder.as_uri(),
        )
    )
    client.initialized(types.InitializedParams())
    path = folder / "a.py"
    uri = path.as_uri()
    item = types.TextDocumentItem(uri=uri, language_id="python", version=1, text=OLD)
    client.text_document_did_open(types.DidOpenTextDocumentParams(text_document=item))
    first_line = types.Range(
        start=types.Position(line=0, character=0), end=types.Position(line=1, character=0)
    )
    change = types.TextDocumentContentChangePartial(range=first_line, text=TYPED)
    client.text_document_did_change(
        types.DidChangeTextDocumentParams(
            text_document=types.VersionedTextDocumentIdentifier(uri=uri, version=2),
            content_changes=[change],
        )
    )
    text = OLD.replace("a = 'ebb'\n", TYPED)
    found = await asyncio.wait_for(shown.get(), 20)
    while found.version != 2:
        found = await asyncio.wait_for(shown.get(), 20)
    settings = sorted(diagnostic.code for diagnostic in found.diagnostics)
    assert settings == ["operator_gap", "quotes"], settings

    document = types.TextDocumentIdentifier(uri=uri)
    edits = await client.text_document_will_save_wait_until_async(
        types.WillSaveTextDocumentParams(
            text_document=document, reason=types.TextDocumentSaveReason.Manual
        )
    )
    text = applied(text, edits)
    path.write_text(text)
    client.text_document_did_save(types.DidSaveTextDocumentParams(text_document=document))
    assert text == OLD.replace("a = 'ebb'\n", MENDED), text

    actions = await client.text_document_code_action_async(
        types.CodeActionParams(
            text_document=document,
            range=first_line,
            context=types.CodeActionContext(diagnostics=[]),
        )
    )
    assert any(action.title == "Mend the whole file" for action in actions), actions
    await client.shutdown_async(None)
    client.exit(None)
    await asyncio.sleep(0.1)
    await client.stop()


def main():
    program = str(pathlib.Path(sys.argv[1]).resolve())
    with tempfile.TemporaryDirectory() as name:
        folder = pathlib.Path(name).resolve()
        git(folder, "init", "--quiet")
        (folder / "kanonix.toml").write_text('[style]\nquotes = "double"\n')
        (folder / "a.py").write_text(OLD)
        git(folder, "add", "--all")
        git(folder, "commit", "--quiet", "-m", "before")
        asyncio.run(asyncio.wait_for(session(program, folder), 60))
    print("a client opened, edited and saved a file: the touched lines are mended, the rest is as it was")


main()
