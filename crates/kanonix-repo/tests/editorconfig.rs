//! The behaviours that the EditorConfig standard publishes (specification 0.17.2), one a row.

use kanonix_repo::canon::Canons;
use kanonix_repo::canon::editorconfig::{EditorConfig, Properties};
use kanonix_core::languages;
use std::path::Path;

/// What one file says of a path, as `name=value` pairs in the order of the names.
fn said(text: &str, path: &str, names: &[&str]) -> String {
    let config = EditorConfig::read(Path::new(".editorconfig"), text);
    let mut properties = Properties::default();
    config.add(&config.sections_of(Path::new(path)), &mut properties);
    let pairs = names.iter().filter_map(|name| Some(format!("{name}={}", properties.get(name)?)));
    pairs.collect::<Vec<_>>().join(" ")
}

/// Pattern, path, whether the one matches the other.
const GLOBS: &[(&str, &str, bool)] = &[
    // A star: anything but a slash.
    ("a*e.c", "ace.c", true),
    ("a*e.c", "abcde.c", true),
    ("a*e.c", "ae.c", true),
    ("a*e.c", "a/e.c", false),
    ("a*e.c", "abc.c", false),
    ("*", "gauge.py", true),
    ("*", "gauges/ingest.py", true),
    ("*", "Makefile", true),
    ("*.py", "ingest.py", true),
    ("*.py", "gauges/old/ingest.py", true),
    ("*.py", "ingest.pyx", false),
    ("*.py", "ingest.PY", false),
    ("*.py", ".py", true),
    ("Bar/*", "Bar/foo.txt", true),
    ("Bar/*", "Bar/baz/foo.txt", false),
    ("Bar/*", "foo/Bar/foo.txt", false),
    ("/Bar/*", "Bar/foo.txt", true),
    ("/*.py", "ingest.py", true),
    ("/*.py", "gauges/ingest.py", false),
    // Two stars: anything at all.
    ("a**z.c", "a/z.c", true),
    ("a**z.c", "amnz.c", true),
    ("a**z.c", "am/nz.c", true),
    ("a**z.c", "a/mn/op/z.c", true),
    ("b/**z.c", "b/z.c", true),
    ("b/**z.c", "b/mnz.c", true),
    ("b/**z.c", "b/mn/op/z.c", true),
    ("b/**z.c", "bz.c", false),
    ("c**/z.c", "c/z.c", true),
    ("c**/z.c", "cm/nz.c", false),
    ("c**/z.c", "cmn/z.c", true),
    ("c**/z.c", "c/mn/op/z.c", true),
    ("d/**/z.c", "d/z.c", true),
    ("d/**/z.c", "d/mn/z.c", true),
    ("d/**/z.c", "d/mn/op/z.c", true),
    ("d/**/z.c", "dmn/z.c", false),
    ("**", "a/b/c.py", true),
    ("**.py", "a/b/c.py", true),
    ("gauges/**", "gauges/a/b.py", true),
    ("gauges/**", "alarms/a/b.py", false),
    ("gauges/**.py", "gauges/a/b.py", true),
    ("gauges/**.py", "gauges/b.js", false),
    // A question mark: one character, not a slash.
    ("som?.c", "some.c", true),
    ("som?.c", "som.c", false),
    ("som?.c", "something.c", false),
    ("som?.c", "som/.c", false),
    ("???.py", "ebb.py", true),
    ("???.py", "flood.py", false),
    ("?.py", "é.py", true),
    // Characters in brackets.
    ("[ab].a", "a.a", true),
    ("[ab].a", "b.a", true),
    ("[ab].a", "c.a", false),
    ("[ab].a", "ab.a", false),
    ("[!ab].b", "c.b", true),
    ("[!ab].b", "a.b", false),
    ("[d-g].c", "d.c", true),
    ("[d-g].c", "f.c", true),
    ("[d-g].c", "h.c", false),
    ("[!d-g].d", "h.d", true),
    ("[!d-g].d", "e.d", false),
    ("[abd-g].e", "e.e", true),
    ("[abd-g].e", "c.e", false),
    ("[-ab].f", "-.f", true),
    ("[-ab].f", "b.f", true),
    ("[-ab].f", "c.f", false),
    ("[ab]].g", "b].g", true),
    ("ab[/c", "ab[/c", true),
    // Words in braces.
    ("*.{py,js,html}", "a.py", true),
    ("*.{py,js,html}", "a.js", true),
    ("*.{py,js,html}", "gauges/a.html", true),
    ("*.{py,js,html}", "a.css", false),
    ("{single}.b", "{single}.b", true),
    ("{single}.b", "single.b", false),
    ("{}.c", "{}.c", true),
    ("{}.c", ".c", false),
    ("a{b,c,}.d", "ab.d", true),
    ("a{b,c,}.d", "ac.d", true),
    ("a{b,c,}.d", "a.d", true),
    ("a{b,c,}.d", "a,.d", false),
    ("a{,b,,c,}.e", "a.e", true),
    ("a{,b,,c,}.e", "ac.e", true),
    ("{.f", "{.f", true),
    ("{.f", ".f", false),
    ("{word,{also},this}.g", "word.g", true),
    ("{word,{also},this}.g", "{also}.g", true),
    ("{word,{also},this}.g", "this.g", true),
    ("{word,{also},this}.g", "word,this}.g", false),
    ("{{a,b},c}.k", "a.k", true),
    ("{{a,b},c}.k", "b.k", true),
    ("{{a,b},c}.k", "c.k", true),
    ("{a,{b,c}}.l", "c.l", true),
    ("{a,{b,c}}.l", "d.l", false),
    ("{gauges,alarms}/**.js", "alarms/siren.js", true),
    ("{gauges,alarms}/**.js", "reports/siren.js", false),
    ("{*.py,*.js}", "a.js", true),
    ("{Makefile,*.mk}", "Makefile", true),
    ("{package,bower}.json", "package.json", true),
    ("{package.json,.tideright}", ".tideright", true),
    // Ranges of numbers.
    ("{3..120}", "3", true),
    ("{3..120}", "15", true),
    ("{3..120}", "120", true),
    ("{3..120}", "1", false),
    ("{3..120}", "121", false),
    ("{3..120}", "5a", false),
    ("{-3..3}.t", "-2.t", true),
    ("{-3..3}.t", "0.t", true),
    ("{-3..3}.t", "4.t", false),
    ("level{1..3}.py", "level2.py", true),
    ("level{1..3}.py", "level4.py", false),
    ("{aardvark..antelope}", "{aardvark..antelope}", true),
    ("{aardvark..antelope}", "ant", false),
    // A backslash takes a mark's meaning away.
    ("a\\*b.c", "a*b.c", true),
    ("a\\*b.c", "axb.c", false),
    ("a\\?b.c", "a?b.c", true),
    ("a\\[b.c", "a[b.c", true),
    ("\\{a,b}.c", "{a,b}.c", true),
    ("\\{a,b}.c", "a.c", false),
    // Names as they are.
    ("ingest.py", "ingest.py", true),
    ("ingest.py", "gauges/ingest.py", true),
    ("gauges/ingest.py", "gauges/ingest.py", true),
    ("gauges/ingest.py", "old/gauges/ingest.py", false),
    ("a b.py", "a b.py", true),
    ("中文.txt", "中文.txt", true),
    ("a+b.py", "a+b.py", true),
    ("a+b.py", "aab.py", false),
    ("(a).py", "(a).py", true),
    ("a.py", "axpy", false),
    ("^a$", "^a$", true),
];

#[test]
fn section_names_match_as_the_standard_says() {
    let mut wrong = Vec::new();
    for (pattern, path, expected) in GLOBS {
        let text = format!("[{pattern}]\nkey = value\n");
        let found = said(&text, path, &["key"]) == "key=value";
        if found != *expected {
            wrong.push(format!("[{pattern}] {path}: {found}"));
        }
    }
    assert!(wrong.is_empty(), "{} of {}:\n{}", wrong.len(), GLOBS.len(), wrong.join("\n"));
}

/// What is shown, a file's text, and what it says of `a.py`, by the names `k`, `l` and `indent_size`.
const TEXTS: &[(&str, &str, &str)] = &[
    ("a pair", "[*]\nk=v\n", "k=v"),
    ("blanks around both", "[*]\n  k  =  v  \n", "k=v"),
    ("tabs around both", "[*]\n\tk\t=\tv\t\n", "k=v"),
    ("no blanks", "[*]\nk=v", "k=v"),
    ("a value of several words", "[*]\nk = a b  c\n", "k=a b  c"),
    ("a second sign belongs to the value", "[*]\nk = a=b\n", "k=a=b"),
    ("names in any case", "[*]\nK = v\n", "k=v"),
    ("values keep their case", "[*]\nk = VaLue\n", "k=VaLue"),
    ("the last one wins", "[*]\nk=1\nk=2\n", "k=2"),
    ("a later section wins", "[*]\nk=1\n[a.py]\nk=2\n", "k=2"),
    ("the order of sections counts, not how near they are", "[a.py]\nk=1\n[*]\nk=2\n", "k=2"),
    ("sections add up", "[*]\nk=1\n[*.py]\nl=2\n", "k=1 l=2"),
    ("a section named twice", "[*]\nk=1\n[*.js]\nk=3\n[*]\nl=2\n", "k=1 l=2"),
    ("another file's section", "[*.js]\nk=1\n", ""),
    ("unset takes a value back", "[*]\nk=1\n[*.py]\nk=unset\n", ""),
    ("unset in any case", "[*]\nk=1\n[*.py]\nk=UNSET\n", ""),
    ("set again after unset", "[*]\nk=unset\nk=2\n", "k=2"),
    ("a comment after `#`", "[*]\n# k=1\nl=2\n", "l=2"),
    ("a comment after `;`", "[*]\n; k=1\nl=2\n", "l=2"),
    ("a comment behind blanks", "[*]\n   # k=1\n\t; k=2\nl=2\n", "l=2"),
    ("no comment behind a value", "[*]\nk = a # b\n", "k=a # b"),
    ("no comment behind a value and `;`", "[*]\nk = a ; b\n", "k=a ; b"),
    ("a comment behind a section's name", "[*] # all\nk=1\n", "k=1"),
    ("a comment before anything", "# first\n[*]\nk=1\n", "k=1"),
    ("empty lines", "\n\n[*]\n\nk=1\n\n\nl=2\n", "k=1 l=2"),
    ("lines that end with carriage return and line feed", "[*]\r\nk=1\r\nl=2\r\n", "k=1 l=2"),
    ("a byte-order mark", "\u{feff}[*]\nk=1\n", "k=1"),
    ("blanks before a section", "  [*]\n  k=1\n", "k=1"),
    ("nothing between the brackets", "[]\nk=1\n", ""),
    ("a line that is nothing is passed over", "[*]\nk=1\nnothing\nl=2\n", "k=1 l=2"),
    ("an empty value says nothing", "[*]\nk=\nl=2\n", "l=2"),
    ("an empty name is passed over", "[*]\n=1\nl=2\n", "l=2"),
    ("pairs before any section are not a file's", "k=1\n[*]\nl=2\n", "l=2"),
    ("brackets inside a name", "[[a]*.py]\nk=1\n", "k=1"),
    ("an empty file", "", ""),
    ("only a comment", "# nothing", ""),
    ("numbers as they are", "[*]\nindent_size = 04\n", "indent_size=04"),
];

#[test]
fn lines_are_read_as_the_standard_says() {
    let mut wrong = Vec::new();
    for (what, text, expected) in TEXTS {
        let found = said(text, "a.py", &["k", "l", "indent_size"]);
        if found != *expected {
            wrong.push(format!("{what}: {found:?}, not {expected:?}"));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// The files of a tree, the outermost first, and what they mean for `gauges/a.py` in our settings.
const MEANINGS: &[(&str, &[(&str, &str)], &str)] = &[
    ("tabs", &[("", "[*]\nindent_style=tab")], "indent_style=tab indent_size=tab"),
    ("tabs, in any case", &[("", "[*]\nindent_style=Tab")], "indent_style=tab indent_size=tab"),
    (
        "tabs of a width",
        &[("", "[*]\nindent_style=tab\ntab_width=8")],
        "indent_style=tab indent_size=tab tab_width=8",
    ),
    (
        "a size that is the tab's",
        &[("", "[*]\nindent_size=tab\ntab_width=8")],
        "indent_size=tab tab_width=8",
    ),
    ("a tab is as wide as a step", &[("", "[*]\nindent_size=2")], "indent_size=2 tab_width=2"),
    (
        "but where its width is said",
        &[("", "[*]\nindent_size=2\ntab_width=8")],
        "indent_size=2 tab_width=8",
    ),
    (
        "tabs with a size",
        &[("", "[*]\nindent_style=tab\nindent_size=2")],
        "indent_style=tab indent_size=2 tab_width=2",
    ),
    ("no limit", &[("", "[*]\nmax_line_length=off")], "max_line_length=off"),
    ("a limit", &[("", "[*]\nmax_line_length=120")], "max_line_length=120"),
    ("line ends", &[("", "[*]\nend_of_line=CRLF")], "end_of_line=crlf"),
    ("line ends that no setting has", &[("", "[*]\nend_of_line=cr")], ""),
    ("an encoding", &[("", "[*]\ncharset=utf-8-bom")], "charset=utf-8-bom"),
    ("an encoding that no setting has", &[("", "[*]\ncharset=latin1")], ""),
    (
        "blanks at a line's end",
        &[("", "[*]\ntrim_trailing_whitespace=false")],
        "trim_trailing_whitespace=false",
    ),
    ("the last line", &[("", "[*]\ninsert_final_newline=FALSE")], "insert_final_newline=false"),
    ("a value that means nothing", &[("", "[*]\nindent_size=many")], ""),
    ("a property that nobody knows", &[("", "[*]\nspelling_language=en")], ""),
    (
        "the nearer file wins",
        &[("", "[*]\nindent_size=2"), ("gauges", "[*]\nindent_size=8")],
        "indent_size=8 tab_width=8",
    ),
    (
        "both add up",
        &[("", "[*]\nmax_line_length=120"), ("gauges", "[*]\nindent_size=8")],
        "indent_size=8 tab_width=8 max_line_length=120",
    ),
    (
        "nothing above a root",
        &[("", "[*]\nmax_line_length=120"), ("gauges", "root=true\n[*]\nindent_size=8")],
        "indent_size=8 tab_width=8",
    ),
    (
        "a root in any case",
        &[("", "[*]\nmax_line_length=120"), ("gauges", "Root = TRUE\n[*]\nindent_size=8")],
        "indent_size=8 tab_width=8",
    ),
    (
        "no root after all",
        &[("", "[*]\nmax_line_length=120"), ("gauges", "root=false\n[*]\nindent_size=8")],
        "indent_size=8 tab_width=8 max_line_length=120",
    ),
    (
        "a root inside a section is none",
        &[("", "[*]\nmax_line_length=120"), ("gauges", "[*]\nroot=true")],
        "max_line_length=120",
    ),
    (
        "unset takes back what a file further out says",
        &[("", "[*]\nmax_line_length=120"), ("gauges", "[*]\nmax_line_length=unset")],
        "",
    ),
    (
        "sections count from their own folder",
        &[("gauges", "[gauges/a.py]\nindent_size=8"), ("", "[gauges/a.py]\nindent_size=2")],
        "indent_size=2 tab_width=2",
    ),
];

#[test]
fn properties_mean_settings_as_the_standard_says() {
    let python = languages::by_name("python").unwrap();
    let mut wrong = Vec::new();
    for (what, files, expected) in MEANINGS {
        let folder = tempfile::tempdir().unwrap();
        let root = folder.path();
        std::fs::create_dir(root.join("gauges")).unwrap();
        for (inside, text) in *files {
            std::fs::write(root.join(inside).join(".editorconfig"), text).unwrap();
        }
        let file = root.join("gauges/a.py");
        let governing = Canons::on_disk(root).governing(&file).unwrap();
        let said = governing.agreed(&file, python).said;
        let found: Vec<String> =
            said.iter().map(|said| format!("{}={}", said.name, said.value)).collect();
        if found.join(" ") != *expected {
            wrong.push(format!("{what}: {:?}, not {expected:?}", found.join(" ")));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}
