//! How TOML is laid out, construct by construct.

use crate::languages::testing::{faults, lay, lay_with, touched};

#[test]
fn pairs_tables_and_keys() {
    insta::assert_snapshot!(lay("toml", "\
a=1
b . c  =  'x' # why
[ d ]
e=2026-03-04
 [ d . \"f g\" ]


h = 0x1F
[[i]]

j=true
"), @r#"
    a = 1
    b.c = 'x' # why

    [d]
    e = 2026-03-04

    [d."f g"]
    h = 0x1F

    [[i]]
    j = true
    "#);
}

#[test]
fn arrays_open_and_inline_tables_never_do() {
    insta::assert_snapshot!(lay_with("toml", &[("max_line_length", "", "40"), ("last_comma", "", "open_list")], "\
a = [1,2 , 3]
b = [ 'quay', 'mole', 'lock', 'north', 'south']
c = [
  1, 2,
  3, 4 # by the tide
]
d = [ [1,2], [ ] ]
e = {high=5.1,low = -0.4,unit = 'metres above the datum'}
f = { }
g = [ # the keepers
  'Nell',
  # until the spring tide
  'Ansgar' ]
"), @"
    a = [1, 2, 3]
    b = [
        'quay', 'mole', 'lock', 'north',
        'south',
    ]
    c = [
        1, 2,
        3, 4 # by the tide
    ]
    d = [[1, 2], []]
    e = { high = 5.1, low = -0.4, unit = 'metres above the datum' }
    f = {}
    g = [ # the keepers
        'Nell',
        # until the spring tide
        'Ansgar',
    ]
    ");
}

#[test]
fn quotes_change_where_nothing_is_escaped() {
    insta::assert_snapshot!(lay_with("toml", &[("quotes", "", "double")], "\
a = 'ebb'
b = 'C:\\tides'
'c d' = \"it's\"
e = '''
  as
it stands'''
"), @r#"
    a = "ebb"
    b = 'C:\tides'
    "c d" = "it's"
    e = '''
      as
    it stands'''
    "#);
    insta::assert_snapshot!(lay_with("toml", &[("quotes", "", "single")], "\
a = \"ebb\"
b = \"ebb\\n\"
"), @r#"
    a = 'ebb'
    b = "ebb\n"
    "#);
}

#[test]
fn only_what_is_touched_changes() {
    insta::assert_snapshot!(touched("toml", "[a]\nb=1\nc=[1,2]\n", "[a]\nb=1\nc=[1,2,3]\n[d]\n"), @"
    [a]
    b=1
    c = [1, 2, 3]

    [d]
    ");
}

/// Where a line ends is syntax: what stands beside something else, or is broken where nothing may end,
/// is left as it is and said.
#[test]
fn lines_are_syntax() {
    for text in ["a = 1 b = 2\n", "[a] b = 1\n", "a =\n 1\n", "a = { b = 1,\n c = 2 }\n", "[\na]\n"]
    {
        assert_eq!(touched("toml", "", text), text);
        assert!(!faults("toml", text).is_empty(), "{text}");
    }
    assert!(faults("toml", "a = [\n1,\n\n2,]\n").is_empty());
}
