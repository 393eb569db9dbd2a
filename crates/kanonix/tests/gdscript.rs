//! Touched lines in a game engine's scripts, kept otherwise than the canon has it.

use crate::support::{Repo, each_touched, edited};

/// As somebody keeps it by hand.
const GAME: &str = r#"extends Node
signal moved( by )
enum State {EBB,FLOOD}
export(int) var depth=2 setget set_depth
onready var boat=$Boat  # moored
var rows = {
        'quay':1,
        'mole' : 2
}
var level=1.0 :
    set( value ):
        level=value
func set_depth( value ):
  depth=value
func ebb(a,b=1):
    if a and b :
        a( )
    elif a : b()
    else:
        # nothing
        pass
    match a:
        1,2 :
            return [ 1,2 ]
    moved.connect(func( by ):
        print( by )
        boat.move(by ))
    var sum = (a+
            b)
    if a \
        and b:
        return """
  as   
    it stands""" + 'x'
    for x in [1,2]: print(x)
    while a>1:
        a-=1
    return a
"#;

/// Each case by itself: what stands there, what somebody makes of it, and what becomes of that.
/// Nothing else in the file changes.
const CASES: [(&str, &str, &str); 22] = [
    ("signal moved( by )", "signal moved( by,at )", "signal moved(by, at)"),
    ("enum State {EBB,FLOOD}", "enum State {EBB,FLOOD,SLACK}", "enum State {EBB, FLOOD, SLACK}"),
    (
        "export(int) var depth=2 setget set_depth",
        "export(int) var depth=3 setget set_depth",
        "export(int) var depth = 3 setget set_depth",
    ),
    (
        "onready var boat=$Boat  # moored",
        "onready var boat=$Ship  # moored",
        "onready var boat = $Ship  # moored",
    ),
    ("        'quay':1,", "        'quay':2,", "        \"quay\": 2,"),
    (
        "        'mole' : 2\n",
        "        'mole' : 2,\n    'far':3\n",
        "        \"mole\": 2,\n        \"far\": 3,\n",
    ),
    ("var level=1.0 :", "var level=2.0 :", "var level = 2.0:"),
    ("    set( value ):", "    set( high ):", "    set(high):"),
    ("        level=value\n", "        level=value+1\n", "        level = value + 1\n"),
    ("  depth=value", "  depth=value+1", "  depth = value + 1"),
    ("func ebb(a,b=1):", "func ebb(a,b=2)->int:", "func ebb(a, b = 2) -> int:"),
    ("    if a and b :", "    if a and not(b) :", "    if a and not (b):"),
    ("        a( )\n", "        a( )\n        b( )\n", "        a( )\n        b()\n"),
    ("    elif a : b()", "    elif b : b()", "    elif b:\n        b()"),
    ("        # nothing\n", "      # nothing yet\n", "        # nothing yet\n"),
    ("        1,2 :\n", "        1,3 :\n", "        1, 3:\n"),
    ("            return [ 1,2 ]", "            return [ 1,3 ]", "            return [1, 3]"),
    ("        print( by )\n", "        print( by,1 )\n", "        print(by, 1)\n"),
    (
        "  as   \n    it stands\"\"\" + 'x'\n",
        "  as it  \n    it stands\"\"\" + 'x'\n",
        "  as it  \n    it stands\"\"\" + \"x\"\n",
    ),
    (
        "    for x in [1,2]: print(x)",
        "    for x in [1,3]: print(x)",
        "    for x in [1, 3]:\n        print(x)",
    ),
    ("    while a>1:", "    while a>2:", "    while a > 2:"),
    ("        a-=1", "        a-=2", "        a -= 2"),
];

#[test]
fn a_touched_line_and_no_other() {
    each_touched("game.gd", GAME, &CASES);
}

#[test]
fn statements_that_somebody_wrapped_move_with_their_block() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let from = "    while a>1:\n        a-=1\n";
    let to = "    if a:\n        while a>1:\n            a-=1\n";
    let mended = edited(&[canon, ("game.gd", GAME)], "game.gd", from, to);
    assert_eq!(mended, GAME.replacen(from, to, 1));
}

#[test]
fn a_line_that_stands_nowhere_is_a_fault_and_stays() {
    let repo = Repo::with(&[("kanonix.toml", "edition = 1\n"), ("game.gd", GAME)]);
    repo.edit("game.gd", "    return a\n", "      return a\n");
    let checked = repo.kanonix(&["check"]);
    assert!(checked.out.contains("does not parse"), "{}", checked.out);
    repo.kanonix(&["mend"]);
    assert!(repo.read("game.gd").ends_with("      return a\n"));
}
