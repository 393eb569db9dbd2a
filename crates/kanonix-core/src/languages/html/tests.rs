//! How pages are laid out, and what stands in them in other languages.

use crate::languages::testing::{faults, lay, lay_with, lines, touched};
use crate::text::{LineSet, apply};
use crate::{Document, judge, languages};

mod templates;

#[test]
fn elements_stand_on_lines_of_their_own_and_texts_on_theirs() {
    insta::assert_snapshot!(lay("html", "\
<!DOCTYPE html>
<html><head><title>Tides</title><meta charset=utf-8></head>
<body>
<div class='quay'   id=\"one\" ><p>Ebb at
 low <i>water</i></p><p>Flood</p></div>
<ul><li>one</li><li>two <ul><li>three
</li></ul></li>
</ul>
<hr><img src=a.svg   alt=''/>
</body></html>
"), @r#"
    <!DOCTYPE html>
    <html>
    <head><title>Tides</title><meta charset=utf-8></head>
    <body>
      <div class="quay" id="one">
        <p>Ebb at
          low <i>water</i></p>
        <p>Flood</p>
      </div>
      <ul>
        <li>one</li>
        <li>
          two
          <ul>
            <li>three
            </li>
          </ul>
        </li>
      </ul>
      <hr>
      <img src=a.svg alt=""/>
    </body>
    </html>
    "#);
}

#[test]
fn white_space_that_shows_is_neither_added_nor_taken_away() {
    insta::assert_snapshot!(lay("html", "\
<p>Ebb<b>low</b> <i>water</i>,
<a href=\"/quay\">quay</a><a href=\"/lock\">lock</a>  &amp;<!-- no --> mole </p>
<p> <span> a </span><span></span> </p>
<button> Warn </button><button>Open</button>
"), @r#"
    <p>Ebb<b>low</b> <i>water</i>,
    <a href="/quay">quay</a><a href="/lock">lock</a> &amp;<!-- no --> mole</p>
    <p><span> a </span><span></span></p>
    <button>Warn</button><button>Open</button>
    "#);
}

#[test]
fn what_is_drawn_as_it_stands_stays_to_the_byte() {
    insta::assert_snapshot!(lay("html", "\
<div><pre>
 ebb   <b>14:20</b>
flood</pre><textarea>
  a
</textarea></div>
"), @"
    <div>
      <pre>
     ebb   <b>14:20</b>
    flood</pre>
      <textarea>
      a
    </textarea>
    </div>
    ");
    let unclosed = "<div><pre>ebb\n </div>\n";
    assert_eq!(lay("html", unclosed), "<div>\n  <pre>ebb\n </div>\n");
    // The end of what stands in a line of text does not end it.
    let misnested = "<div>\n  <b><pre>   </b>\n ebb\n</div>\n";
    assert_eq!(lay("html", misnested), misnested);
}

#[test]
fn a_text_beside_what_a_list_holds_is_drawn_with_its_white_space() {
    insta::assert_snapshot!(lay("html", "\
<ul>
<b>Ebb</b>: <a href=\"/low\">low</a><br>
<li>flood
</ul>
<ul><b>Ebb</b> <i>low</i></ul>
"), @r#"
    <ul>
      <b>Ebb</b>: <a href="/low">low</a><br>
      <li>flood
    </ul>
    <ul><b>Ebb</b> <i>low</i></ul>
    "#);
}

#[test]
fn a_word_in_angles_is_no_tag_with_attributes() {
    let text = "<ul>\n  <li>ask <watch@saltmarsh.example>  about it\n</ul>\n";
    assert_eq!(lay("html", text), text.replace("  about", " about"));
}

#[test]
fn an_element_that_holds_nothing_ends_with_its_tag() {
    insta::assert_snapshot!(lay("html", "\
<div>
<img src=a.svg>
Quay

and lock<br>ebb <b>low</b> <input> level
</div>
"), @"
    <div>
    <img src=a.svg>
    Quay

    and lock<br>ebb <b>low</b> <input> level
    </div>
    ");
}

#[test]
fn attributes_stand_where_it_is_agreed() {
    let under = "<input class=\"level\" name=\"level\"\n       type=\"number\"\n       disabled>\n";
    let below = "<input\n  class=\"level\"\n  name=\"level\"\n  type=\"number\"\n  disabled>\n";
    let step = under.replace("       ", "  ");
    let beside = under.replace("\" name", "\"\n       name");
    let style = |align| [("wrap_align", "attribute", align), ("max_line_length", "", "40")];
    for (align, text, wanted) in [
        ("any", under, under),
        ("any", &step, &step),
        ("any", below, below),
        ("keep", under, under),
        ("keep", below, below),
        ("bracket", under, under),
        ("bracket", below, &beside),
        ("step", under, below),
    ] {
        assert_eq!(lay_with("html", &style(align), text), wanted, "{align}");
    }
    let flat = under.replace("\n      ", "");
    assert_eq!(lay_with("html", &style("any"), &flat), below);
    assert_eq!(lay_with("html", &style("bracket"), &flat), beside);
    // One alone is no shorter for a line of its own.
    let one = format!("<td class=\"{}\">\n  ebb\n</td>\n", "level ".repeat(12));
    assert_eq!(lay_with("html", &style("any"), &one), one);
    let markup = "a = <Chart gauge={gauge} name=\"level\"\n           quiet={true} />;\n";
    assert_eq!(lay_with("javascript", &style("bracket"), markup), markup);
}

#[test]
fn attributes_stand_one_a_line_once_they_do_not_fit() {
    let text = "<div>\n<input name=\"level\" type=\"number\" min=0 disabled>\n<br><br/>\n</div>\n";
    insta::assert_snapshot!(lay_with("html", &[("max_line_length", "", "40")], text), @r#"
    <div>
      <input
        name="level"
        type="number"
        min=0
        disabled>
      <br><br/>
    </div>
    "#);
    let own_line = [
        ("max_line_length", "", "40"),
        ("tag_end", "", "own_line"),
        ("inner_gap", "tag_end", "true"),
    ];
    insta::assert_snapshot!(lay_with("html", &own_line, text), @r#"
    <div>
      <input
        name="level"
        type="number"
        min=0
        disabled
      >
      <br><br />
    </div>
    "#);
    let in_text =
        "<p>Look at the <a class=\"quiet\" href=\"/gauges/quay\">gauges</a> at noon.</p>\n";
    assert_eq!(lay_with("html", &[("max_line_length", "", "40")], in_text), in_text);
}

#[test]
fn a_comment_that_touches_an_end_tag_stays_so() {
    let page = "<div>\n  <p>x</p>\n</div><!-- /tides -->\n<hr>  <!-- end -->\n";
    assert_eq!(lay("html", page), page.replace("  <!-- end", " <!-- end"));
}

#[test]
fn a_last_comment_is_as_far_in_as_what_stands_before_it() {
    let page = "\
<div>
  <p>x</p>
  <!-- one -->
</div>
<ul>
  <li>
    ebb
    <!-- two -->
  <li>
    <!-- three -->
  </li>
</ul>
<div>
  <p>x</p>
<!-- <p>gone</p> -->
</div>
";
    assert_eq!(lay("html", page), page);
    let flat = page.replace("\n    ", "\n").replace("\n  ", "\n");
    // One that is all there is stands where somebody put it.
    let wanted = page.replace("<!-- <p>", "  <!-- <p>").replace("    <!-- three", "  <!-- three");
    assert_eq!(lay_with("html", &[("page_indent", "", "true")], &flat), wanted);
}

#[test]
fn a_text_may_hold_signs_that_stand_for_themselves() {
    let text = "<p>2 > 1 & ebb < flood &copy; &#8364;</p>\n";
    assert_eq!(lay("html", text), text);
    assert!(faults("html", text).is_empty());
}

#[test]
fn what_an_element_without_an_end_holds_stays_where_it_is() {
    let (deep, flat) = ("<div>\n  <p>ebb</p>\n</div>\n", "<p>\n<table>\n</table>\n");
    let text = format!("{deep}{deep}{flat}<p>\n  <table>\n  </table>\n<p>slack</p>\n");
    let keep = [("page_indent", "", "keep")];
    assert_eq!(lay_with("html", &keep, &text), text);
    let inside = text.replace("\n<table>\n</table>", "\n  <table>\n  </table>");
    assert_eq!(lay_with("html", &[("page_indent", "", "true")], &text), inside);
}

#[test]
fn a_line_that_goes_on_with_a_text_stays_further_in_than_it() {
    let text =
        "<dl>\n  <dt>Ebb</dt>\n  <dd>The water falls and\n      <i>goes out</i>\n  </dd>\n</dl>\n";
    assert_eq!(lay("html", text), text);
    let sea = "<div>\n  See also:\n    <a href=\"#a\">ebb</a>,\n    <a href=\"#b\">flood</a>\n\n  And so on.\n</div>\n";
    assert_eq!(lay("html", sea), sea);
    let odd = sea.replace("    <a href=\"#b\"", "     <a href=\"#b\"");
    assert_eq!(lay("html", &odd), sea.replace("    <a href=\"#b\"", "  <a href=\"#b\""));
    let even = sea.replace("    <a", "  <a");
    assert_eq!(lay_with("html", &[("page_indent", "text", "true")], sea), even);
    // How far in it is says nothing about the steps of the page.
    let base = "<ul>\n  <li>the water falls and\n      <i>goes</i> out\n</ul>\n";
    assert_eq!(touched("html", base, &base.replace("</i> ", "</i>   ")), base);
    let item = "  <li>the water rises and<br>\n      comes in\n";
    let broken = base.replace("</ul>", &format!("{item}{item}</ul>"));
    assert_eq!(touched("html", &broken, &broken.replace("</i> ", "</i>   ")), broken);
    // Nor does it go further in because its text stands elsewhere than a mended one would.
    let margin = "<body>\n<hr>\n<b>ebb</b>\n<b>flood</b>\n";
    let deep = margin.replace("<b>flood", "        <b>flood");
    assert_eq!(touched("html", margin, &deep), deep);
    // It is a step further in where the page's steps become others, and by the page's on a touched line.
    let page = |step: &str| {
        format!("<main>\n{step}<div>\n{step}{step}<p>See <b>ebb</b> and\n{step}{step}{step}<b>flood</b>.</p>\n{step}</div>\n</main>\n")
    };
    let (old, new) = (page("    "), page("  "));
    assert_eq!(lay("html", &old), new);
    let far = old.replace("            <b>flood", "                <b>flood");
    let mended = touched("html", &old, &far);
    assert_eq!(touched("html", &old, &mended), mended);
}

#[test]
fn tags_that_stand_beside_each_other_at_both_ends_stay_so() {
    let text =
        "<div><pre>\nebb\n</pre></div>\n<ul>\n  <li><p>flood\n    and slack</p></li>\n</ul>\n";
    assert_eq!(lay("html", text), text);
    let apart = "<div>\n  <p>\n    ebb\n  </p>\n</div>\n";
    assert_eq!(lay("html", "<div><p>\n    ebb\n  </p>\n</div>\n"), apart);
    let flat = "<ul><li>ebb</li></ul>\n";
    assert_eq!(lay("html", flat), flat);
}

#[test]
fn a_break_behind_a_block_is_part_of_it() {
    let text = "<hr><br>\n<p>Ebb</p><br>\n<p>Flood</p>\n";
    assert_eq!(lay("html", text), text);
    let apart = "<hr>\n<br>\n<p>Ebb</p>\n<br>\n<p>Flood</p>\n";
    assert_eq!(lay("html", apart), apart);
    assert_eq!(lay_with("html", &[("list_wrap", "", "fit")], text), apart);
}

#[test]
fn what_a_page_holds_is_as_far_in_as_most_of_it() {
    let flat = "<html>\n<body>\n<p>\nEbb\nand flow\n</p>\n</body>\n</html>\n";
    insta::assert_snapshot!(lay("html", flat), @"
    <html>
    <body>
      <p>
      Ebb
      and flow
      </p>
    </body>
    </html>
    ");
    insta::assert_snapshot!(lay_with("html", &[("page_indent", "", "true")], flat), @"
    <html>
      <body>
        <p>
          Ebb
          and flow
        </p>
      </body>
    </html>
    ");
}

#[test]
fn drawings_hold_nothing_but_their_parts() {
    insta::assert_snapshot!(lay("html", "\
<p>A <svg viewBox='0 0 1 1'><g><path d=\"M0 0\"/><path d=\"M1 1\" /></g>
<text>Quay  <tspan>one</tspan></text></svg> mark</p>
"), @r#"
    <p>A <svg viewBox="0 0 1 1">
      <g><path d="M0 0"/><path d="M1 1" /></g>
      <text>Quay <tspan>one</tspan></text>
    </svg> mark</p>
    "#);
}

#[test]
fn pages_whose_style_sheets_show_all_white_space_keep_all_of_it() {
    let text = "<div><p>Ebb</p><p>Flood</p> <p>\nSlack</p></div>\n";
    insta::assert_snapshot!(lay_with("html", &[("shown_space", "", "everywhere")], text), @"
    <div><p>Ebb</p><p>Flood</p> <p>
    Slack</p></div>
    ");
}

#[test]
fn scripts_and_style_sheets_are_laid_out_by_their_own_languages() {
    insta::assert_snapshot!(lay_with("html", &[("page_indent", "embedded", "true")], "\
<head>
<style>

p{color:red}
@media print{p{margin:0}}

</style>
<script type=module>
function warn(a,b){return `
  ${a}`+b}
</script>
<script type=\"application/json\">
{\"a\":[1,2]}
</script>
<script type=\"text/tide\">
 a  b
</script>
<script>warn( )</script>
</head>
"), @r#"
    <head>
      <style>
        p {
          color: red;
        }

        @media print {
          p {
            margin: 0;
          }
        }
      </style>
      <script type=module>
        function warn(a, b) {
          return `
      ${a}` + b
        }
      </script>
      <script type="application/json">
        { "a": [1, 2] }
      </script>
      <script type="text/tide">
     a  b
      </script>
      <script>warn()</script>
    </head>
    "#);
}

#[test]
fn a_touched_line_of_a_script_is_mended_and_no_other() {
    let page = |body: &[&str]| {
        lines(&["<div>", "   <script>", "     let  a=1;"]) + &lines(body) + "   </script>\n</div>\n"
    };
    let base = page(&["     f( a );"]);
    let text = page(&["     f( a );", "   let  b=2;"]);
    assert_eq!(touched("html", &base, &text), page(&["     f( a );", "     let b = 2;"]));
    // A tag's own line goes to where its closing one stands, and what it holds stays where it is.
    let tag = text.replace("   <script>", " <script  defer>");
    let mended = text.replace("   <script>", "   <script defer>");
    assert_eq!(touched("html", &text, &tag), mended);
}

#[test]
fn a_line_in_another_language_keeps_what_does_not_parse() {
    let text = "<script>\nlet  a = ;\nlet  b=1;\n</script>\n";
    assert_eq!(faults("html", text).len(), 1);
}

#[test]
fn comments_ask_for_things_to_be_kept() {
    let text =
        "<!-- kanonix: keep -->\n<div   id=a></div>\n<script>\n// kanonix: keep\nf( );\n</script>\n";
    assert_eq!(lay("html", text), text);
    let html = crate::languages::by_name("html").unwrap();
    assert_eq!(crate::keeps(text, html).len(), 2);
}

const ORDER: [(&str, &str, &str); 2] = [
    ("word_order", "groups", r#"["others", "flex grid", "p-* m-*", "with_condition"]"#),
    ("word_order", "conditions", r#"["wide", "night"]"#),
];

#[test]
fn the_words_of_a_class_are_in_the_agreed_order() {
    let text = "<p CLASS='m-2 p-4  night:grid\n  wide:flex card flex' id=\"p-4 flex\">Ebb</p>\n";
    let laid = lay_with("html", &ORDER, text);
    let wanted =
        "<p CLASS=\"card flex  p-4\n  m-2 wide:flex night:grid\" id=\"p-4 flex\">Ebb</p>\n";
    assert_eq!(laid, wanted);
}

#[test]
fn a_word_that_stands_twice_is_said_and_stays() {
    let html = languages::by_name("html").unwrap();
    let mut style = html.style();
    ORDER.iter().for_each(|(name, key, value)| style.set(name, key, value).unwrap());
    let text = "<p class=\"flex p-4 flex\">Ebb</p>\n<p class=\"a a\">b</p>\n";
    let outcome = judge(text, html, &style, &LineSet::of([0..1]));
    assert_eq!(apply(text, &outcome.edits), text.replace("flex p-4 flex", "flex flex p-4"));
    let said: Vec<(&str, &str)> = outcome
        .remarks
        .iter()
        .map(|remark| (&text[remark.bytes.clone()], remark.message.as_str()))
        .collect();
    assert_eq!(said, [("flex", "`flex` stands here twice")]);
}

#[test]
fn a_script_beside_its_tags_is_laid_out_as_far_as_it_stays_on_its_line() {
    let lay = |inside: &str| {
        let laid = lay("html", &format!("<p>a</p>\n<script>{inside}</script>\n<p>b</p>\n"));
        laid["<p>a</p>\n<script>".len()..laid.len() - "</script>\n<p>b</p>\n".len()].to_string()
    };
    let kept = ["", " ", "a( );b( )", "if(a){b( )}", "a( {{ .B }} )", "// a( )"];
    assert_eq!(kept.map(lay), kept);
    assert_eq!(lay("init( a,b )"), "init(a, b)");
    assert_eq!(lay(" init( a,b ); "), " init(a, b); ");
}

#[test]
fn a_line_with_a_script_in_it_is_touched_as_one() {
    let text = "<p >a</p><script>init( )</script>\n<script>init( )</script><p >b</p>\n";
    let laid = touched("html", &text.replace("<script>init( )</script><p >b", "b"), text);
    assert_eq!(laid, "<p >a</p><script>init( )</script>\n<script>init()</script><p>b</p>\n");
}

#[test]
fn texts_are_filled_where_the_canon_asks_for_it() {
    let settings = [("text_fill", "", "width"), ("max_line_length", "", "40")];
    insta::assert_snapshot!(lay_with("html", &settings, "\
<div>
The office of Saltmarsh
publishes   the <em>levels of all</em> of its gauges<a href=\"/a\" class=\"b\">, as it
  must</a>, here.

A blank line<br> and
a break
<p>Ends it, a paragraph that begins behind its tag.
<ul><li>So <b>does</b> a list</li></ul>
&amp; a comment <!-- why -->
too<button>Warn
all</button>
</div>
<pre>
as   it
is</pre>
"), @r#"
    <div>
      The office of Saltmarsh publishes the
      <em>levels of all</em> of its
      gauges<a href="/a" class="b">, as it
      must</a>, here.

      A blank line<br> and a break
      <p>Ends it, a paragraph that begins
        behind its tag.
        <ul>
          <li>So <b>does</b> a list</li>
        </ul>
        &amp; a comment <!-- why -->
        too<button>Warn all</button>
    </div>
    <pre>
    as   it
    is</pre>
    "#);
    // An action is a word, and a control word is no part of a paragraph.
    insta::assert_snapshot!(lay_with("html", &settings, "\
<p>
{{ if .High }}
High water at {{ .Time }}, and {{ template \"next tide\" . }}
 as always.
{{ end }}
</p>
<p>{{ low
  water }} stays.</p>
"), @r#"
    <p>
    {{ if .High }}
    High water at {{ .Time }}, and
    {{ template "next tide" . }} as always.
    {{ end }}
    </p>
    <p>{{ low
      water }} stays.</p>
    "#);
    // Where white space may show anywhere, no line ends elsewhere.
    let text = "<p>Ebb and flood, and flood and ebb, in turn, as always</p>\n";
    let everywhere = [settings[0], settings[1], ("shown_space", "", "everywhere")];
    assert_eq!(lay_with("html", &everywhere, text), text);
}

/// What opens on a line of words would have the others hang behind its end tag.
#[test]
fn a_long_word_is_none_of_a_paragraph() {
    let text = "\
<div>
  <button>All</button>
  <button class=\"chip\" data-cat=\"first-steps\">First steps</button>
  <button>Bills</button>
  <button>Other</button>
</div>
";
    let lay_at = |columns, text: &str| {
        let settings = [
            ("text_fill", "", "width"),
            ("list_wrap", "", "fit"),
            ("max_line_length", "", columns),
        ];
        lay_with("html", &settings, text)
    };
    let narrow = lay_at("60", text);
    insta::assert_snapshot!(narrow, @r#"
    <div>
      <button>All</button>
      <button class="chip" data-cat="first-steps">
        First steps
      </button>
      <button>Bills</button> <button>Other</button>
    </div>
    "#);
    let wide = lay_at("90", text);
    insta::assert_snapshot!(wide, @r#"
    <div>
      <button>All</button>
      <button class="chip" data-cat="first-steps">First steps</button>
      <button>Bills</button> <button>Other</button>
    </div>
    "#);
    assert_eq!(lay_at("90", &narrow), wide);
}

#[test]
fn a_paragraph_is_filled_that_a_touched_line_is_of_and_no_other() {
    let mut style = languages::by_name("html").unwrap().style();
    style.set("text_fill", "", "width").unwrap();
    style.set("max_line_length", "", "24").unwrap();
    let html = languages::by_name("html").unwrap();
    let text = "<div>\n  Ebb\n  and flood,\n  in turn.\n\n  Low\n  water.\n</div>\n";
    let mended = crate::mend(text, html, &style, &LineSet::of([2..3])).unwrap().text;
    insta::assert_snapshot!(mended, @"
    <div>
      Ebb and flood, in
      turn.

      Low
      water.
    </div>
    ");
    // However many elements stand between a touched line and the others of its paragraph.
    let words = "<b>ebb</b>\n[ ]\n".repeat(20);
    let text = format!("<h2>Tides</h2>\n{words}<h2>Levels</h2>\n");
    let (page, set) = (Document::new(text, html), LineSet::of([39..40]));
    let (near, all) = (page.judge(&style, &set), page.judge_all_around(&style, &set));
    assert_eq!((&near.edits, &near.slips), (&all.edits, &all.slips));
    assert!(near.edits.len() > 10, "all of its lines");
}

/// What a program asks for that is no browser.
#[test]
fn a_page_may_begin_with_an_instruction() {
    let text = "<?xml version='1.0'?>\n<!DOCTYPE html><html><body><p>ebb</p></body></html>\n";
    assert!(faults("html", text).is_empty());
    insta::assert_snapshot!(lay("html", text), @"
    <?xml version='1.0'?>
    <!DOCTYPE html><html><body><p>ebb</p></body></html>
    ");
}

/// Where a team lets elements stand beside others, only those that somebody put there have lines.
#[test]
fn elements_stay_beside_others_where_a_canon_keeps_them() {
    let keep = [("element_line", "", "keep"), ("page_indent", "", "false")];
    let page = "<html><head>\n<title>Tides</title>\n</head><body>\n<p>The tide office.<P>\nAnother<hr> one.\n<table><tr><td>\nebb\n</tr></table>\n<p>The</p> <p>tide</p><ul>\n<li>ebb</li></ul>\n</body></html>\n";
    assert_eq!(lay_with("html", &keep, page), page);
    let torn = "<ul><li>ebb</li>\n    <li>flood</li></ul>\n";
    assert_eq!(lay_with("html", &keep, torn), "<ul><li>ebb</li>\n<li>flood</li></ul>\n");
    let long = format!("<ul><li>{}</li><li>flood</li></ul>\n", "ebb ".repeat(30).trim_end());
    assert_eq!(lay_with("html", &keep, &long), long);
}

/// What a browser without frames is told is one text to all others.
#[test]
fn what_stands_beside_frames_stays_to_the_byte() {
    let page = "<frameset>\n<frame src=a.html>\n<noframes><body>\n  <a   href=\"a.html\">here</a><p>\n</body></noframes>\n</frameset>\n";
    let single = [("markup_quotes", "", "single")];
    let mended = lay_with("html", &single, page);
    assert!(mended.contains(
        "<noframes><body>\n  <a   href=\"a.html\">here</a><p>\n</body></noframes>"
    ));
    let page = "<p>\n  <iframe src=\"a\"><a   href=\"b\">c</a></iframe>\n  <iframe   src=\"a\"></iframe>\n</p>\n";
    let wanted = page.replace("<iframe   src=\"a\"", "<iframe src='a'");
    assert_eq!(lay_with("html", &single, page), wanted);
}

/// What is filled as a text stays so, whether a line of it ends between words or in a tag.
#[test]
fn a_tag_in_a_sentence_goes_on_as_the_text_does() {
    let page = "\
<div>
  <p>All that is said of the gauges of the quay stands in <a
  href=\"/manual/gauges/of/the/quay.html#levels\">the manual of the tide office</a>, and in the <a
  href=\"/manual/low.html\" title=\"Low\">one of the buoys at the mouth of the harbour</a>.
  </p>
</div>
";
    assert_eq!(lay("html", page), page);
    let typed = page.replace("low.html\" title", "low.html\"   title");
    assert_eq!(touched("html", page, &typed), page);
    // Further in is a step, and what stands in no sentence has its first attribute behind the name or a
    // line for each.
    let further = page.replace("  href", "     href");
    assert_eq!(lay("html", &further), page.replace("  href", "    href"));
    let quay = "/charts/of/the/quay/and/of/the/lock/as/they/were/last/year.png";
    let image = format!("<div>\n<img src=\"{quay}\"\nalt=\"The quay\" width=\"300\">\n</div>\n");
    let wanted = format!(
        "<div>\n  <img src=\"{quay}\"\n    alt=\"The quay\" width=\"300\">\n</div>\n"
    );
    assert_eq!(lay("html", &image), wanted);
    let each = image.replace("<img src", "<img\nsrc");
    let wanted = wanted
        .replace("<img src", "<img\n    src")
        .replace("quay\" width", "quay\"\n    width");
    assert_eq!(lay("html", &each), wanted);
}

/// Whoever saves before the end tag is written has moved nothing yet.
#[test]
fn lines_go_a_step_in_once_the_element_around_them_ends() {
    let base = "<body>\n  <ul>\n    <li>ebb\n    <li>flood\n  </ul>\n  <p>slack\n</body>\n";
    let begun = base.replace("  <ul>", "  <div>\n  <ul>");
    assert_eq!(touched("html", base, &begun), begun);
    let ended = begun.replace("</ul>\n", "</ul>\n</div>\n");
    assert_eq!(
        touched("html", base, &ended),
        base.replace("\n  ", "\n    ")
            .replace("    <ul>", "  <div>\n    <ul>")
            .replace("</ul>\n    <p>", "</ul>\n  </div>\n  <p>")
    );
    let torn = base.replace("  </ul>\n", "");
    assert_eq!(touched("html", base, &torn), torn);
    let optional = base.replace("    <li>flood", "<li>neap\n    <li>flood");
    assert_eq!(touched("html", base, &optional), optional.replace("\n<li>", "\n    <li>"));
}

/// The lines that go on with a text do not hang on where Enter left its first one.
#[test]
fn a_text_that_is_put_below_its_tag_stands_evenly_in_it() {
    let base = "<div>\n  <p>High water\n  at noon\n  and at night.</p>\n</div>\n";
    let enter = base.replace("<p>High", "<p>\nHigh");
    assert_eq!(
        touched("html", base, &enter),
        "<div>\n  <p>\n    High water\n    at noon\n    and at night.</p>\n</div>\n"
    );
}

/// What only some browsers read, and what is nearly a comment, are comments to all of them.
#[test]
fn comments_that_are_written_otherwise_are_read() {
    let text = "\
<! -- by hand -->
<html>
<head>
  <![if gte IE 9]>
  <title>Tides</title>
  <![endif]>
</head>
</html>
";
    assert!(faults("html", text).is_empty());
    assert_eq!(lay("html", text), text);
    assert_eq!(lay("html", &text.replace("  <title>", "<title>")), text);
}
