//! Touched lines in Lua, kept otherwise than the canon has it.

use crate::support::{Repo, each_touched, edited};

/// As somebody keeps it by hand.
const PLUG: &str = r#"#!/usr/bin/lua
local M={}   -- the display
local quay   = require'quay'
local mole_x = require "mole"

--[[ How high
     it stands ]]
function M.read( name,... )
    if not name then return nil,'no name' end
    local rows = {
        { "quay",2.1 },
        { "mole",3.4 };
    }
    for at=1,#rows do
        print( at )
    end
    while rows[ 1 ] do rows[1]=nil end
    repeat
        name=name..'x'
    until #name>3
    if name=='quay' then
        M.warn( )
    elseif name == "mole" then M.rest(); goto out
    else
        -- nothing
    end
    ::out::
    local text = [[
  ebb
      flood]]
    return rows,text
end

M.listen = function( event )
    quay:read( event ):filter( mole_x )
        :each( print )
end

M.each( function(gauge)
    print( gauge )
end,2 )
return M;
"#;

/// Each case by itself: what stands there, what somebody makes of it, and what becomes of that.
/// Nothing else in the file changes.
const CASES: [(&str, &str, &str); 20] = [
    ("local M={}   -- the display", "local M={ }   -- a display", "local M = { } -- a display"),
    ("local quay   = require'quay'", "local quay  = require'key'", "local quay = require'key'"),
    (
        "local mole_x = require \"mole\"\n",
        "local mole_x = require \"mole\"\nlocal  a<const>=1\n",
        "local mole_x = require \"mole\"\nlocal a <const> = 1\n",
    ),
    ("     it stands ]]", "       it stood ]]", "       it stood ]]"),
    (
        "function M.read( name,... )",
        "function M.read( name,x,... )",
        "function M.read(name, x, ...)",
    ),
    (
        "    if not name then return nil,'no name' end",
        "    if not name then return nil,'none' end",
        "    if not name then return nil, 'none' end",
    ),
    ("        { \"quay\",2.1 },", "        { \"quay\",2.2 },", "        { \"quay\", 2.2 },"),
    (
        "        { \"mole\",3.4 };\n",
        "        { \"mole\",3.4 };\n  { 'far' ,1 },\n",
        "        { \"mole\",3.4 };\n        { 'far', 1 },\n",
    ),
    ("    for at=1,#rows do", "    for at=2,#rows do", "    for at = 2, #rows do"),
    ("        print( at )", "         print( at,1 )", "        print(at, 1)"),
    (
        "    while rows[ 1 ] do rows[1]=nil end",
        "    while rows[ 2 ] do rows[2]=nil end",
        "    while rows[2] do rows[2] = nil end",
    ),
    ("        name=name..'x'", "        name=name..'y'", "        name = name .. 'y'"),
    ("    until #name>3", "    until #name>4", "    until #name > 4"),
    ("        M.warn( )", "        M.warn( 1 );", "        M.warn(1);"),
    (
        "    elseif name == \"mole\" then M.rest(); goto out\n",
        "    elseif name=='mole' then M.rest(); goto out\n",
        "    elseif name == 'mole' then\n        M.rest()\n        goto out\n",
    ),
    ("        -- nothing", "  -- nothing yet", "        -- nothing yet"),
    ("      flood]]", "   flood]]", "   flood]]"),
    (
        "    quay:read( event ):filter( mole_x )\n        :each( print )",
        "    quay:read( event ):filter( mole_x )\n        :each( print,1 )",
        "    quay:read(event):filter(mole_x):each(print, 1)",
    ),
    ("    print( gauge )", "    print( gauge,2 )", "    print(gauge, 2)"),
    ("return M;", "return  M ;", "return M;"),
];

#[test]
fn a_touched_line_and_no_other() {
    each_touched("plug.lua", PLUG, &CASES);
}

#[test]
fn statements_that_somebody_wrapped_move_with_their_words() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let from = "    for at=1,#rows do\n        print( at )\n    end\n";
    let to = "    if quay then\n    for at=1,#rows do\n        print( at )\n    end\n    end\n";
    let wanted =
        "    if quay then\n        for at=1,#rows do\n            print( at )\n        end\n    end\n";
    let mended = edited(&[canon, ("plug.lua", PLUG)], "plug.lua", from, to);
    assert_eq!(mended, PLUG.replacen(from, wanted, 1));
}

#[test]
fn a_word_too_many_is_a_fault_and_stops() {
    let repo = Repo::with(&[("kanonix.toml", "edition = 1\n"), ("plug.lua", PLUG)]);
    repo.edit("plug.lua", "return M;", "end\nreturn M;");
    let checked = repo.kanonix(&["check"]);
    assert!(checked.out.contains("does not parse"), "{}", checked.out);
}
