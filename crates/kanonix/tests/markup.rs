//! Touched lines in pages, style sheets, scripts in pages, and templates.

use crate::support::{Repo, edited};

const CANON: &str = "edition = 1\n[style.javascript]\nquotes = \"double\"\n";

/// A file in which only what was edited becomes something else: `wanted`.
fn alone(name: &str, old: &str, from: &str, to: &str, wanted: &str) {
    let mended = edited(&[("kanonix.toml", CANON), (name, old)], name, from, to);
    assert_eq!(mended, old.replacen(from, wanted, 1), "{to}");
}

/// As somebody keeps it by hand, not as the canon has it.
const PAGE: &str = "\
<!doctype html>
<html>
<body>
   <div class='quay'>
      <p>High water at <b>14:20</b>,
      <i>springs</i>.</p>
      <ul><li>ebb</li><li>flood</li></ul>
      <table>
      <tr><td>Quay</td> <td>3.2</td></tr>
      </table>
   </div>
   <pre>
 ebb   14:20
</pre>
</body>
</html>
";

#[test]
fn a_line_of_a_page_and_no_other() {
    alone(
        "a.html",
        PAGE,
        "   <div class='quay'>",
        "   <div  class='mole'>",
        "   <div class=\"mole\">",
    );
    alone("a.html", PAGE, "<p>High water at", "<p >High tide at", "<p>High tide at");
    alone(
        "a.html",
        PAGE,
        "      <i>springs</i>.</p>",
        "   <i >neaps</i>.</p>",
        "         <i>neaps</i>.</p>",
    );
    alone("a.html", PAGE, "<b>14:20</b>,", "<b >15:20</b>,", "<b>15:20</b>,");
    alone("a.html", PAGE, " ebb   14:20", " ebb   15:20", " ebb   15:20");
    let row = "<tr><td>Quay</td> <td>3.3</td></tr>";
    let old = row.replace("3.3", "3.2");
    let touched = format!("      {}", row.replace("<td>3", "<td >3"));
    // In the page's own steps.
    alone("a.html", PAGE, &format!("      {old}"), &touched, &format!("         {row}"));
}

#[test]
fn new_lines_of_a_page_stand_beside_the_old_ones() {
    alone(
        "a.html",
        PAGE,
        "   </div>\n",
        "  <p>Slack</p>\n   </div>\n",
        "      <p>Slack</p>\n   </div>\n",
    );
    alone("a.html", PAGE, "   <pre>\n", " <hr>\n   <pre>\n", "   <hr>\n   <pre>\n");
    let row = "      <tr><td>Lock</td></tr>\n      </table>\n";
    alone("a.html", PAGE, "      </table>\n", "<tr><td>Lock</td></tr>\n      </table>\n", row);
    alone(
        "a.html",
        PAGE,
        "   <div class",
        "<!-- why -->\n   <div class",
        "   <!-- why -->\n   <div class",
    );
}

#[test]
fn white_space_that_shows_stays_on_a_touched_line() {
    let old = "<p>\n  Ebb <b>low</b><i>er</i>\n  tide\n</p>\n";
    alone("a.html", old, "<b>low</b><i>er</i>", "<b >high</b><i >er</i>", "<b>high</b><i>er</i>");
    alone("a.html", old, "Ebb <b>low</b>", "Ebb   <b>low</b> ,", "Ebb <b>low</b> ,");
    alone("a.html", old, "  tide", " tide &amp;<br>", "  tide &amp;<br>");
}

const SHEET: &str = "\
a{color:red}
.quay
{
   margin : 0;
   color:navy
}
@media print{
.mole{display:none}
}
";

#[test]
fn a_line_of_a_style_sheet_and_no_other() {
    alone("a.css", SHEET, "   margin : 0;", "   margin : 1px;", "   margin: 1px;");
    alone("a.css", SHEET, "   color:navy", " color:teal", "   color: teal;");
    alone(
        "a.css",
        SHEET,
        "   color:navy\n",
        "   color:navy;\n  top : 0\n",
        "   color: navy;\n   top: 0;\n",
    );
    alone("a.css", SHEET, "@media print{", "@media  screen{", "@media screen {");
    alone("a.css", SHEET, "}\n@media", "}\n/* why */\n@media", "}\n\n/* why */\n@media");
}

const SCRIPTED: &str = "\
<div>
    <style>
      p{ color:red }
      a{ color:navy }
    </style>
    <script>
     let  a='ebb';
     function warn(){
       sound( a );
     }
    </script>
    <script type='application/json'>
      {\"level\" : 1,
       \"unit\" : \"m\"}
    </script>
</div>
";

#[test]
fn a_line_of_a_script_in_a_page_and_no_other() {
    alone("a.html", SCRIPTED, "     let  a='ebb';", "   let  a='low';", "     let a = \"low\";");
    alone("a.html", SCRIPTED, "       sound( a );", "  sound( a , 1 );", "       sound(a, 1);");
    alone(
        "a.html",
        SCRIPTED,
        "     function warn(){",
        "     function warn( b ){",
        "     function warn(b) {",
    );
    let more = "     }\n     warn();\n    </script>";
    alone("a.html", SCRIPTED, "     }\n    </script>", "     }\n  warn( );\n    </script>", more);
    alone("a.html", SCRIPTED, "    <script>\n", "    <script  defer>\n", "    <script defer>\n");
    // A list that is closed is one again as a whole.
    let values = "      {\"level\" : 1,\n       \"unit\" : \"m\"}";
    let closed = "      { \"level\": 1, \"unit\": \"cm\" }";
    alone("a.html", SCRIPTED, values, &values.replace("\"m\"", "\"cm\""), closed);
}

#[test]
fn a_line_of_a_style_sheet_in_a_page_and_no_other() {
    alone(
        "a.html",
        SCRIPTED,
        "    <style>\n",
        "    <style  media=print>\n",
        "    <style media=print>\n",
    );
    let opened = "      a {\n        color: teal;\n      }\n";
    alone(
        "a.html",
        SCRIPTED,
        "      a{ color:navy }\n",
        "   a{ color:teal }\n",
        opened,
    );
}

const TEMPLATE: &str = "\
{{ define \"tides\" }}
<ul>
    {{ range .Tides }}
    <li class='tide' {{ if .High }}id=\"high\"{{ end }}>{{ .At }}</li>
    {{ end }}
</ul>
{{ end }}
<script>
  let  a={{ .Level }};
</script>
";

#[test]
fn a_line_of_a_template_and_no_other() {
    alone(
        "a.html.tmpl",
        TEMPLATE,
        "    {{ range .Tides }}",
        "  {{ range .All }}",
        "    {{ range .All }}",
    );
    alone("a.html.tmpl", TEMPLATE, "<li class='tide'", "<li class='low'", "<li class=\"low\"");
    alone(
        "a.html.tmpl",
        TEMPLATE,
        "    {{ end }}\n",
        "    <li >{{ .Now }}</li>\n    {{ end }}\n",
        "    <li>{{ .Now }}</li>\n    {{ end }}\n",
    );
    alone(
        "a.html.tmpl",
        TEMPLATE,
        "  let  a={{ .Level }};",
        "  let  b={{ .Level }};",
        "  let  b={{ .Level }};",
    );
    alone("a.gohtml", TEMPLATE, "<ul>\n", "<ul  id=all>\n", "<ul id=all>\n");
}

#[test]
fn a_slip_in_a_script_is_told_with_the_pages_lines_and_its_own_setting() {
    let repo = Repo::with(&[("kanonix.toml", CANON), ("a.html", SCRIPTED)]);
    let checked = repo.kanonix(&["check", "--lines", "7", "a.html"]);
    assert!(
        checked.out.contains("a.html:7:12: operator_gap: one space on each side of `=`"),
        "{}",
        checked.out
    );
    assert!(checked.out.contains("a.html:7:13: quotes: use double quotes"), "{}", checked.out);
    let told = repo.kanonix(&["explain", "a.html:7"]);
    assert!(told.out.contains("quotes") && told.out.contains("column"), "{}", told.out);
    repo.write("a.html", SCRIPTED.replace("let  a='ebb';", "let  a=;"));
    let checked = repo.kanonix(&["check", "--whole", "a.html"]);
    assert!(checked.out.contains("a.html:7"), "{}{}", checked.out, checked.err);
}

const ORDERED: &str = "\
edition = 1
[style.word_order]
groups = [\"others\", \"flex grid\", \"p-* m-*\", \"with_condition\"]
conditions = [\"wide\", \"night\"]
";

#[test]
fn a_paragraph_is_filled_again_where_it_was_touched_and_no_other() {
    let canon = "edition = 1\n[style.html]\ntext_fill = \"width\"\nmax_line_length = 30\n";
    let old = "<div>\n   Ebb,\n   flood.\n\n   Slack\n   <b>water</b>.\n</div>\n";
    let touched = edited(
        &[("kanonix.toml", canon), ("a.html", old)],
        "a.html",
        "   Slack\n",
        "   Slack and still, and again high\n",
    );
    let wanted = "   Slack and still, and again\n   high <b>water</b>.\n";
    assert_eq!(touched, old.replace("   Slack\n   <b>water</b>.\n", wanted));
}

#[test]
fn words_are_put_in_order_on_touched_lines_alone() {
    let page =
        "<p class=\"m-1 flex\">Ebb</p>\n<p class=\"m-2 flex card night:p-4 wide:p-1\">Flood</p>\n";
    let files = [("kanonix.toml", ORDERED), ("a.html", page)];
    let mended = edited(&files, "a.html", "m-2 flex", "m-2 p-2 flex");
    let wanted = page.replace(
        "m-2 flex card night:p-4 wide:p-1",
        "card flex p-2 m-2 wide:p-1 night:p-4",
    );
    assert_eq!(mended, wanted);
    let code = "let a = <p className=\"m-1 flex\" />;\nlet b = <p className=\"m-2 flex\" />;\n";
    let files = [("kanonix.toml", ORDERED), ("a.jsx", code)];
    let mended = edited(&files, "a.jsx", "m-2 flex", "m-2 flex grid");
    assert_eq!(mended, code.replace("m-2 flex", "flex grid m-2"));
}

#[test]
fn what_is_wrong_with_a_list_of_words_is_said_in_its_place() {
    let said = |word_order: &str| {
        let canon = format!("edition = 1\n[style]\nword_order = {word_order}\n");
        let repo = Repo::with(&[("kanonix.toml", &canon), ("a.html", "<p>Ebb</p>\n")]);
        let checked = repo.kanonix(&["check"]);
        assert_eq!(checked.status, 2, "{}", checked.out);
        checked.err
    };
    insta::assert_snapshot!(
        ["{ groups = [\"a\", 1] }", "{ groups = [['a \"b\"']] }", "{ groups = \"box\" }", "[\"a\"]"]
            .map(said)
            .join("")
    );
}

#[test]
fn a_word_that_stands_twice_is_said_and_stops_nobody() {
    let page = "<p class=\"flex m-1\">Ebb</p>\n";
    let repo = Repo::with(&[("kanonix.toml", ORDERED), ("a.html", page)]);
    repo.edit("a.html", "flex m-1", "flex m-1 m-1");
    let checked = repo.kanonix(&["check"]);
    assert_eq!((checked.status, checked.out.as_str()), (
        0,
        "a.html:1:20: doubled_word: `m-1` stands here twice\n",
    ));
    let json = repo.kanonix(&["check", "--report", "json"]).out;
    assert!(json.contains("\"remarks\": 1") && json.contains("doubled_word"), "{json}");
    assert_eq!(repo.kanonix(&["mend"]).status, 0);
    assert_eq!(repo.read("a.html"), page.replace("m-1", "m-1 m-1"));
}

#[test]
fn settle_prices_an_order_and_leaves_the_one_that_a_team_lists() {
    let page = "<p class=\"m-1 flex\">Ebb</p>\n".repeat(8);
    let repo = Repo::with(&[("kanonix.toml", ORDERED), ("a.html", &page)]);
    let list = "style.html.word_order.groups=[\"p-* m-*\", \"flex\"]";
    let priced = repo.kanonix(&["settle", "--price", list]);
    assert!(
        priced.out.contains("8 lines in 1 file") && priced.out.contains("0 lines"),
        "{}",
        priced.out
    );
    let proposed = repo.kanonix(&["settle"]).out;
    assert!(proposed.contains("groups = [\"others\"") && !proposed.contains("keep"), "{proposed}");
    let set = repo.kanonix(&["settle", "--set", list, "--write"]);
    assert_eq!(set.status, 0, "{}", set.err);
    assert_eq!(repo.kanonix(&["check", "--whole"]).out, "");
}

const DIALECT: &str = "\
@use 'quay';
$gap:2px;
$levels: (
   'low': 1,
   'high':2
);
.gauge{ color:red;
   @include wide( $gap ){margin:0 auto}
   @if $gap==2px{ float:none }@else{ float:left }
   &-name{ width:calc( 100% - #{$gap} ) }   // why
}
";

#[test]
fn a_line_of_a_style_sheets_dialect_and_no_other() {
    alone("a.scss", DIALECT, "$gap:2px;", "$gap:3px;", "$gap: 3px;");
    alone("a.scss", DIALECT, "   'high':2\n", "   'high':3\n", "   'high':3\n");
    alone(
        "a.scss",
        DIALECT,
        "$levels: (",
        "$heights :(",
        "$heights: (",
    );
    alone(
        "a.scss",
        DIALECT,
        "   @include wide( $gap ){margin:0 auto}",
        "   @include wide( $gap ){margin:1px auto}",
        "   @include wide( $gap ) {\n      margin: 1px auto;\n   }",
    );
    alone(
        "a.scss",
        DIALECT,
        "-name{ width:calc( 100% - #{$gap} ) }   // why",
        "-name{ width:calc( 90% - #{$gap} ) }   // why",
        "-name {\n      width: calc(90% - #{$gap});\n   } // why",
    );
    let less = DIALECT
        .replace('$', "@")
        .replace("@include wide( @gap ){margin:0 auto}", ".wide( );");
    alone("a.less", &less, "@gap:2px;", "@gap:3px;", "@gap: 3px;");
    alone("a.less", &less, "   .wide( );", "  .wide( @gap );", "   .wide( @gap );");
}

#[test]
fn scripts_and_style_sheets_that_have_no_files_of_their_own_have_a_say() {
    let page = "<body>\n  <script>\n    let a = 'ebb';\n    if (a) {\n        warn('low');\n    }\n  </script>\n</body>\n";
    let repo = Repo::with(&[]);
    std::fs::remove_file(repo.path("kanonix.toml")).unwrap();
    (0..6).for_each(|number| repo.write(&format!("{number}.html"), page));
    let proposed = repo.kanonix(&["settle"]);
    assert!(
        proposed.out.contains("[style.javascript]               # in 6 pages, 24 lines")
            && proposed.out.contains("quotes = \"single\""),
        "{}",
        proposed.out
    );
    assert!(proposed.err.contains("javascript · in 6 pages · 24 lines"), "{}", proposed.err);
}
