"""Kills `kanonix mend --staged` at its system calls, one after the other, and looks at what is left:
every file and the index wholly old or wholly new, git's own check content, and the next run clean.

Usage: killed.py KANONIX [PLACES], where strace can be run.
"""

import os
import pathlib
import subprocess
import sys
import tempfile

CALLS = [
    "openat", "openat2", "write", "renameat", "renameat2", "rename", "fdatasync", "fsync", "fchmod",
    "unlinkat", "unlink", "mkdirat", "mkdir", "read", "newfstatat", "fstat", "close", "flock",
    "clone3", "wait4", "pipe2", "getdents64", "statx", "lseek", "ioctl", "readlink", "execve",
]
OLD = {"a.py": "a=2\n", "b.py": "b=2\nc=3\n"}
NEW = {"a.py": "a = 2\n", "b.py": "b = 2\nc=3\n"}
STAGED = [{"a.py": "a=2\n", "b.py": "b=2\n"}, {"a.py": "a = 2\n", "b.py": "b = 2\n"}]


def git(folder, *words):
    name = ["-c", "user.name=Keeper", "-c", "user.email=keeper@saltmarsh.example"]
    done = subprocess.run(["git", *name, *words], cwd=folder, capture_output=True, text=True)
    assert done.returncode == 0, (words, done.stderr)
    return done.stdout


def prepared(folder):
    git(folder, "init", "--quiet")
    (folder / "kanonix.toml").write_text("edition = 1\n")
    (folder / "a.py").write_text("a = 1\n")
    (folder / "b.py").write_text("b = 1\n")
    git(folder, "add", "--all")
    git(folder, "commit", "--quiet", "-m", "before")
    (folder / "a.py").write_text("a=2\n")
    (folder / "b.py").write_text("b=2\n")
    git(folder, "add", "--all")
    (folder / "b.py").write_text("b=2\nc=3\n")


def looked_at(folder, program, environment, place):
    for name in OLD:
        text = (folder / name).read_text()
        assert text in (OLD[name], NEW[name]), (place, name, text)
    staged = {name: git(folder, "cat-file", "blob", f":{name}") for name in OLD}
    assert staged in STAGED, (place, staged)
    git(folder, "fsck", "--strict")
    git(folder, "status")
    again = [program, "mend", "--staged"]
    done = subprocess.run(again, cwd=folder, env=environment, capture_output=True, text=True)
    assert done.returncode == 0, (place, done.stderr)
    for name in NEW:
        assert (folder / name).read_text() == NEW[name], (place, name)
    assert {name: git(folder, "cat-file", "blob", f":{name}") for name in NEW} == STAGED[1], place
    left = [entry.name for entry in folder.iterdir() if entry.name.startswith(".kanonix-")]
    assert not left, (place, left)
    check = [program, "check", "--staged"]
    done = subprocess.run(check, cwd=folder, env=environment, capture_output=True, text=True)
    assert (done.returncode, done.stdout) == (0, ""), (place, done)


def main():
    program = str(pathlib.Path(sys.argv[1]).resolve())
    places = int(sys.argv[2]) if len(sys.argv) > 2 else 300
    killed = 0
    for number in range(1, 1000):
        before = killed
        for call in CALLS:
            if killed >= places:
                break
            with tempfile.TemporaryDirectory() as name:
                folder = pathlib.Path(name).resolve() / "tree"
                folder.mkdir()
                prepared(folder)
                environment = dict(os.environ, XDG_STATE_HOME=str(folder.parent / "state"))
                trace = [
                    "strace",
                    "-o",
                    "/dev/null",
                    "-e",
                    f"inject={call}:signal=KILL:when={number}"
                ]
                run = [*trace, program, "mend", "--staged"]
                done = subprocess.run(
                    run,
                    cwd=folder,
                    env=environment,
                    capture_output=True,
                    text=True
                )
                if done.returncode == 0:
                    continue
                killed += 1
                looked_at(folder, program, environment, (call, number))
        if killed >= places or killed == before:
            break
    assert killed > 0, "nothing was killed: can strace be run here?"
    print(f"killed at {killed} places: files and index whole, the next run clean")


main()
