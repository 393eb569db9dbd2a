"""Reads pairs of programs, each a line of JSON, and says of each whether Python's own reader finds the
same in both: "same", "unread" where it cannot read the first one, or what differs."""

import ast
import json
import sys
import warnings

warnings.simplefilter("ignore")


def tree(text):
    return ast.dump(ast.parse(text.removeprefix("\ufeff")))


for line in sys.stdin:
    before, after = json.loads(line)["texts"]
    try:
        wanted = tree(before)
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        print("unread", flush=True)
        continue
    try:
        found = tree(after)
    except (SyntaxError, ValueError) as error:
        print(f"no program any more: {error}", flush=True)
        continue
    if wanted == found:
        print("same", flush=True)
    else:
        at = next((i for i, (a, b) in enumerate(zip(wanted, found)) if a != b), 0)
        print(
            f"{wanted[max(at - 60, 0):at + 60]} became {found[max(at - 60, 0):at + 60]}",
            flush=True
        )
