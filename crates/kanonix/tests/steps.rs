//! A block's own step: what new code is indented by in a file that is indented otherwise than the
//! canon says.

use crate::support::Repo;

/// A file that is clearly indented by two spaces; the canon says four.
const NARROW: &str = "def ebb(a):\n  low='ebb'\n  if a:\n    low='slack'\n  return low\n\n\n\
                      def flood(a):\n  return a*2\n";

fn mended(old: &str, from: &str, to: &str) -> String {
    let repo = Repo::with(&[("tide.py", old)]);
    repo.edit("tide.py", from, to);
    repo.mend(&[]);
    repo.read("tide.py")
}

#[test]
fn a_block_whose_header_is_old_keeps_its_step() {
    let text = mended(NARROW, "    low='slack'\n", "    low='flood'+a\n");
    assert_eq!(text, NARROW.replace("    low='slack'\n", "    low = \"flood\" + a\n"));
    // All of a body, and more of it than before.
    let text = mended(NARROW, "  return a*2\n", "  b=a\n  return b*2\n");
    assert_eq!(text, NARROW.replace("  return a*2\n", "  b = a\n  return b * 2\n"));
    // The only block of its file.
    let text = mended("if a:\n   b=1\n", "b=1", "b=2");
    assert_eq!(text, "if a:\n   b = 2\n");
}

#[test]
fn a_step_that_neither_the_file_nor_the_canon_has_is_no_step() {
    let text = mended(NARROW, "    low='slack'\n", "       low='flood'\n");
    assert_eq!(text, NARROW.replace("    low='slack'\n", "    low = \"flood\"\n"));
    let wide = NARROW.replace("    ", "        ").replace("\n  ", "\n    ");
    let text = mended(&wide, "    return a*2\n", "            return a*2\n");
    assert_eq!(text, wide.replace("a*2", "a * 2"));
}

#[test]
fn new_code_has_the_files_step_or_the_canons_as_its_author_used_it() {
    let add = |new: &str| mended(NARROW, "def flood", &format!("{new}\n\ndef flood"));
    let same = |new: &str| NARROW.replace("def flood", &format!("{new}\n\ndef flood"));
    let own = "def slack(a):\n  if a:\n    return 1\n  return 2\n";
    assert_eq!(add(own), same(own));
    let canon = "def slack(a):\n    if a:\n        return 1\n    return 2\n";
    assert_eq!(add(canon), same(canon));
    for other in [
        "def slack(a):\n    if a:\n      return 1\n    return 2\n",
        "def slack(a):\n  if a:\n      return 1\n  return 2\n",
        "def slack(a):\n   if a:\n      return 1\n   return 2\n",
        "def slack(a):\n\tif a:\n\t\treturn 1\n\treturn 2\n",
    ] {
        assert_eq!(add(other), same(own), "{other}");
    }
}

#[test]
fn a_new_block_in_an_old_one_goes_on_in_its_step() {
    let new = "  if a>1:\n    low=2\n    low=3\n  return low\n";
    let text = mended(NARROW, "  return low\n", new);
    let wanted = "  if a > 1:\n    low = 2\n    low = 3\n  return low\n";
    assert_eq!(text, NARROW.replace("  return low\n", wanted));
    let new = "  if a>1:\n      low=2\n  return low\n";
    let wanted = "  if a > 1:\n      low = 2\n  return low\n";
    let text = mended(NARROW, "  return low\n", new);
    assert_eq!(text, NARROW.replace("  return low\n", wanted));
}

#[test]
fn tabs_and_spaces_never_meet_in_one_indentation() {
    let tabbed = "function ebb(a) {\n\tlog( a )\n\tif (a) {\n\t\tlog( 1 )\n\t}\n}\n";
    for body in ["\t\tlog(2)", "\t    log(2)", "        log(2)", "log(2)"] {
        let repo = Repo::with(&[("tide.js", tabbed)]);
        let new = format!("\tlog( a )\n\twhile(a) {{\n{body}\n\t}}\n");
        repo.edit("tide.js", "\tlog( a )\n", &new);
        repo.mend(&[]);
        let wanted = "\tlog( a )\n\twhile (a) {\n\t\tlog(2)\n\t}\n";
        assert_eq!(repo.read("tide.js"), tabbed.replace("\tlog( a )\n", wanted), "{body:?}");
    }
    // The canon wants tabs, and the file has spaces.
    let repo = Repo::with(&[("tide.js", &tabbed.replace('\t', "  "))]);
    repo.write("kanonix.toml", "edition = 1\n[style]\nindent_style = \"tab\"\n");
    repo.edit("tide.js", "  log( a )\n", "  log( a )\n  while(a) {\n  \tlog(2)\n  }\n");
    repo.mend(&["tide.js"]);
    let wanted = "  log( a )\n  while (a) {\n    log(2)\n  }\n";
    let expected = tabbed.replace('\t', "  ").replace("  log( a )\n", wanted);
    assert_eq!(repo.read("tide.js"), expected);
}

#[test]
fn a_whole_reach_brings_the_file_to_the_canon() {
    let repo = Repo::with(&[("tide.py", NARROW)]);
    repo.mend(&["--whole"]);
    insta::assert_snapshot!(repo.read("tide.py"), @r#"
    def ebb(a):
        low = "ebb"
        if a:
            low = "slack"
        return low


    def flood(a):
        return a * 2
    "#);
}
