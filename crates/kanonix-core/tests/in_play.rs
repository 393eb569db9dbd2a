//! Where lines in play stand beside others that are not.

use crate::support::{mend_marked, touched};

#[test]
fn a_header_in_play_stands_where_its_closing_line_shows_that_it_does() {
    let marked = "
 function f() {
>  if(a) {
         b();
     }
 }
";
    assert_eq!(
        mend_marked("javascript", &[], marked),
        "function f() {\n    if (a) {\n        b();\n    }\n}\n"
    );
}

#[test]
fn a_line_with_all_its_brackets_closed_may_show_a_files_own_step() {
    let base = "if (a)\n    b();\nif (c)\n    d();\n";
    let text = format!("{base}if (e) {{\nf();\n}}\n");
    let mended = touched("javascript", base, &text);
    assert_eq!(mended, format!("{base}if (e) {{\n    f();\n}}\n"));
}

#[test]
fn a_step_of_two_spaces_is_no_two_steps_in_tabs() {
    let marked = "
 if a then
   b()
 end
>if c then
>d()
>end
";
    let settings = [("indent_style", "", "tab"), ("wrap_indent", "chain", "2")];
    assert_eq!(
        mend_marked("lua", &settings, marked),
        "if a then\n  b()\nend\nif c then\n  d()\nend\n"
    );
}

#[test]
fn a_row_in_play_stays_in_tabs_where_its_file_is_in_tabs() {
    let old = "\
if siren then
\tboard:set(\"form\",
\t\t\"size[8,11]\"..
\t\t\"list[tide;1,0]\"
\t\t)
end
";
    let text = old.replace("11]\"..", "11]\"..  ");
    let wanted = old.replace("11]\"..", "11]\" ..");
    assert_eq!(touched("lua", old, &text), wanted);
}

#[test]
fn what_follows_a_comment_of_several_lines_stands_as_far_in_as_that_begins() {
    let old =
        "/**\n * Ebb.\n */\npublic class Quay\n\t\textends Harbour {\n\n\tvoid rise() {\n\t\twarn();\n\t}\n}\n";
    let text = old.replace("*/\npublic", "*/ public");
    assert_eq!(touched("java", old, &text), text);
}

#[test]
fn members_that_only_their_lines_keep_apart_are_not_joined() {
    let old = "\
watch((tide) => {
  read<{
    ebb: undefined
    flood: {
      level: number
    }
  }>()
})
";
    let text = old.replace("<{\n    ebb", "<{ ebb");
    assert_eq!(touched("typescript", old, &text), text);
}

#[test]
fn a_body_that_is_new_has_no_step_that_the_file_has_by_chance() {
    let old = "\
def rise(gauge):
    if gauge:
        warn(
                1,
                2,
        )
    return 1


def fall(gauge):
    if gauge:
        return 2
    return 3


def rest(gauge):
";
    let new = |deep: &str| format!("{old}{deep}if gauge:\n{deep}    return 4\n{deep}return 5\n");
    let base = format!("{old}    pass\n");
    assert_eq!(touched("python", &base, &new("        ")), new("    "));
}

#[test]
fn what_a_line_shows_that_stands_where_it_belongs_holds_for_those_beside_it() {
    let old = "def rise(gauge):\n    warn(gauge)\n    gauge.set(\n        1,\n        2,\n    )\n";
    let text = old.replace("    warn", "        warn").replace("    gauge.", "        gauge.");
    assert_eq!(touched("python", old, &text), old);
    // What goes to where its closing line stands shows nothing of what it is in.
    let old = "\
if gauge:
    try:
        read(gauge)
    except Ebb:
        raise Slack(
            1,
            2,
        )
";
    let inner = "    try:\n        read(gauge)\n    except Ebb:\n        raise Slack(\n";
    let further: String = inner.lines().map(|line| format!("    {line}\n")).collect();
    assert_eq!(touched("python", old, &old.replace(inner, &further)), old);
}

#[test]
fn a_line_that_goes_on_with_a_text_is_as_far_in_as_its_author_put_it() {
    let old = "<UL>\n\t<LI> Ebb.\n\t  Flood.\n\n</UL>\n";
    let text = old.replace("Flood.\n\n", "Flood. ");
    let wanted = "<UL>\n\t<LI> Ebb.\n\t  Flood.\n</UL>\n";
    assert_eq!(touched("html", old, &text), wanted);
    // However wide the steps around it are, and behind its tag, too.
    let old = "<div>\n    <p>Ebb</p>\n    <title>Ebb and flood</title>\n    <ul>\n        <li>Ebb</li>\n    </ul>\n</div>\n";
    let text = old.replace("and flood", "and\n        flood");
    assert_eq!(touched("html", old, &text), text);
}

#[test]
fn what_a_token_of_several_lines_holds_shows_no_step() {
    let said = "  options:\n    path:\n      type: path\n    mode:\n      type: raw\n";
    let code = "def open(path):\n    return [\n        read(path), mode,\n    ]\n";
    let base = format!("WORDS = '''\n{said}{said}'''\n\n\n{code}");
    let text = base.replace("        read(path)", "     read(path)");
    assert_eq!(touched("python", &base, &text), base);
}

/// A line that was moved by itself goes back to where it stood, and what goes on with it is where it was: as
/// far in as its author put it, or under something.
#[test]
fn a_line_that_is_moved_alone_goes_back_alone() {
    let java = "class A {\n    void f() {\n        check(2);\n        HEAD\n    }\n}\n";
    for head in [
        "return ebb.isLow()\n                || flood.isHigh();",
        "return ebb.isLow()\n               || flood.isHigh();",
        "return ebb.isLow()\n            || flood.isHigh();",
        "warn(gauge)\n            .with(ebb)\n            .at(quay);",
        "level = gauge.read(ebb,\n                           flood);",
        "if (ebb.isLow()\n                || flood.isHigh()) {\n            warn();\n        }",
    ] {
        let base = java.replace("HEAD", head);
        let first = head.lines().next().unwrap();
        for moved in ["", "    ", "            ", "\t\t\t"] {
            let text = base.replace(&format!("        {first}"), &format!("{moved}{first}"));
            assert_eq!(touched("java", &base, &text), base, "{text}");
        }
    }
}

/// The first line of a block that nothing stands beside is as far in as its closing line, though it takes
/// several lines.
#[test]
fn a_header_that_is_moved_alone_goes_back_to_its_closing_line() {
    let base = "\
namespace Tides
{
    // what is read
    public struct Gauge
    {
        int level;
    }
}
";
    let text = base.replace("    public", "public");
    assert_eq!(touched("csharp", base, &text), base);
    let base = "\
class A {
    void f() {
        for (Gauge gauge : gauges) {
            if (gauge.isLow()
                    && gauge.isFalling()) {
                return;
            }
        }
    }
}
";
    let text = base.replace("            if", "if");
    assert_eq!(touched("java", base, &text), base);
}
