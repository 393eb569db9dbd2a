"""A real editor with its own client, in a terminal that nobody looks at: see eglot.el.

Usage: eglot.py KANONIX, where `emacs` and its package eglot are installed.
"""

import os
import pathlib
import pty
import signal
import subprocess
import sys
import tempfile
import threading
import time

OLD = "\n\nlevel = 1\n\n\ndef flood(level):\n    return level*2\n"
LONGEST = 180


def git(folder, *words):
    name = ["-c", "user.name=Keeper", "-c", "user.email=keeper@saltmarsh.example"]
    subprocess.run(["git", *name, *words], cwd=folder, check=True)


def read(terminal):
    try:
        while os.read(terminal, 4096):
            pass
    except OSError:
        pass


def run(program, folder):
    said = folder / "said"
    work = folder / "tidewatch"
    work.mkdir()
    git(work, "init", "--quiet")
    (work / "kanonix.toml").write_text("edition = 1\n[style]\nquotes = \"double\"\n")
    (work / "a.py").write_text(OLD)
    git(work, "add", "--all")
    git(work, "commit", "--quiet", "--message", "Begin")
    surroundings = {
        **os.environ,
        "KANONIX": str(pathlib.Path(program).resolve()),
        "FOLDER": str(work),
        "SAID": str(said),
        "HOME": str(folder),
        "TERM": "xterm",
    }
    script = pathlib.Path(__file__).with_name("eglot.el").resolve()
    editor, terminal = pty.fork()
    if editor == 0:
        os.execvpe("emacs", ["emacs", "-q", "-nw", "-l", str(script)], surroundings)
    threading.Thread(target=read, args=(terminal,), daemon=True).start()
    end = time.monotonic() + LONGEST
    while os.waitpid(editor, os.WNOHANG) == (0, 0):
        if time.monotonic() > end:
            os.kill(editor, signal.SIGKILL)
        time.sleep(0.05)
    return said.read_text() if said.exists() else ""


with tempfile.TemporaryDirectory() as folder:
    said = run(sys.argv[1], pathlib.Path(folder))
    print(said, end="")
    if "not ok" in said or not said.endswith("done\n"):
        sys.exit("the editor did not get through")
    print(f"the editor's own client: {said.count('ok: ')} of its saves as they should be")
