//! Texts in which something does not parse: what is around it stays, and mending comes to an end.

use super::Ground;

/// Mends three times: the second and the third change nothing, and nothing is left to say.
fn settles(path: &str, canon: &str, text: &str) -> String {
    let ground = Ground::with(&[]);
    ground.repo.write("kanonix.toml", canon);
    ground.repo.write(path, text);
    ground.kanonix(&["mend", "--whole", path]);
    let once = ground.repo.read(path);
    let said = ground.kanonix(&["check", "--whole", path]);
    assert_eq!(said.status, 0, "{text:?} became {once:?}: {said:?}");
    for _ in 0..2 {
        ground.kanonix(&["mend", "--whole", path]);
        assert_eq!(ground.repo.read(path), once, "{text:?}");
    }
    once
}

#[test]
fn no_carriage_returns_grow_beside_a_fault() {
    let canon = "[style]\nend_of_line = \"crlf\"\n";
    for text in [
        "a = = 1 # note\n# more\nb=2\n",
        "# note\na = (\n# more\n",
        "def f():\n    x = = 1 # note\r\n    # more\r\n    y=2\nc=3\n",
        "class\n# note\r\nx\n",
        "a = 1 # note\r\r\nb = = 2\n",
    ] {
        let out = settles("a.py", canon, text);
        assert!(!out.contains("\r\r\r"), "{out:?}");
    }
}

#[test]
fn the_statement_of_a_fault_stays_to_the_byte() {
    let broken = "   let   x = foo( a,\n  b = = 1 )\n";
    let text = format!("let a=1\nfunction ebb( a,b ){{\n{broken}   return   x+1\n}}\nlet b=2\n");
    let out = settles("a.js", "edition = 1\n", &text);
    assert!(out.contains(broken), "{out}");
    assert!(out.contains("return x + 1") && out.contains("let b = 2"), "{out}");
    let member = "  ebb( a b ){ let  x = 1\n return  2 }\n";
    let text = format!(
        "class Gauge {{\n  flood( a ){{ return  1 }}\n{member}  tide( a ){{ return  3 }}\n}}\n"
    );
    let out = settles("a.js", "edition = 1\n", &text);
    assert!(out.contains(member.trim_end()), "{out}");
    assert!(
        out.contains("flood(a)") && out.contains("tide(a)"),
        "its neighbours are mended: {out}"
    );
}

/// Which of the brackets is the one too many, or too few, nobody knows.
#[test]
fn what_an_unpaired_bracket_may_have_ended_stays() {
    for (path, text) in [
        (
            "a.js",
            "function ebb() {\n   if (a) {\n      b()\n      } x\n      c( );\n      d( );\n   }\n}\n",
        ),
        (
            "a.ts",
            "class Gauge {\n   ebb() {\n      b( )\n   } }x\n      c( );\n   }\n   tide( ) { }\n}\n",
        ),
        ("a.rs", "fn ebb( ) {\n   if a {\n   } }x\n     c( );\n   }\n}\n"),
        ("a.js", "function ebb( ) {\n   if (a) {\n      b( );\n}\nfunction tide( ) { }\n"),
    ] {
        assert_eq!(settles(path, "edition = 1\n", text), text);
    }
    // What lies before an opening one is its own.
    let text = "let a=1\nfunction ebb( ) {\n   if (a) {\n      b( );\n}\n";
    let out = settles("a.js", "edition = 1\n", text);
    assert_eq!(out, text.replace("a=1", "a = 1"));
}

#[test]
fn mended_is_clean_and_faults_stay() {
    for (path, text) in [
        ("a.ts", "export ''\nlet a=1;\nexport default\nlet b=2\n"),
        ("a.js", "export ''\nlet a=1;\nif (a) {\n"),
        ("a.js", "let a=1\n}\nlet b=2\n"),
        ("a.js", "foo(\nlet b=2\nclass A { b( }\n"),
        ("a.py", "def f(:\n  a=1\nb=2\n"),
        ("a.py", "if a:\nb=1\n  c=2\nd=3\n"),
        ("a.py", "x = '''\nnever ends\n"),
        ("a.py", "a=1\n\tb=2\n        c=3\n"),
        ("a.rs", "fn a( {\n let  x=1;\n}\nfn b(){}\n"),
        ("a.json", "{\"a\":1,,\"b\":2}\n"),
        ("a.json", "{\"a\":[1,2}\n"),
    ] {
        for canon in [
            "edition = 1\n",
            "[style]\nstatement_end = \"bare\"\nend_of_line = \"crlf\"\n",
        ] {
            settles(path, canon, text);
        }
    }
}
