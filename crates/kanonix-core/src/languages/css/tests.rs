//! How style sheets are laid out, construct by construct.

use crate::languages;
use crate::languages::testing::{faults, lay, lay_with, touched};

mod reading;

#[test]
fn rules_selectors_and_declarations() {
    insta::assert_snapshot!(lay("css", "\
a,b>c{color:red;margin:0 1px}
.quay #mole~p+q,[ level = 'high' ]::before{ background : url( tide.png ) ;content:\"ebb\"!important }
.lock:not( .old , a:hover ):nth-child(2n+1)   .buoy {}
.chart{&:hover{color:red}> a{color:blue}}
"), @r#"
    a,
    b > c {
      color: red;
      margin: 0 1px;
    }

    .quay #mole ~ p + q,
    [level='high']::before {
      background: url( tide.png );
      content: "ebb" !important;
    }

    .lock:not(.old, a:hover):nth-child(2n+1) .buoy {}

    .chart {
      &:hover {
        color: red;
      }

      > a {
        color: blue;
      }
    }
    "#);
}

#[test]
fn values_keep_what_touches_and_open_at_their_commas() {
    insta::assert_snapshot!(lay("css", "\
a{font:12px/1.5 'Tide Sans',serif;width:calc( 100% - 2em );inset:-1px +2px;color:rgb(0 0 0/50%)}
b{transition:color .2s ease-in-out,background-color .2s ease-in-out,border-color .2s ease-in-out}
c{grid-template-areas:
'head head'
'tide wind';
grid-template-columns: [full] minmax( 1rem,1fr )
[main];
font-family: 'Tide Sans', serif,
monospace}
d{--quay:  a  b;--mole:calc( 1px+2px )}
"), @"
    a {
      font: 12px/1.5 'Tide Sans', serif;
      width: calc(100% - 2em);
      inset: -1px +2px;
      color: rgb(0 0 0/50%);
    }

    b {
      transition: color .2s ease-in-out, background-color .2s ease-in-out, border-color .2s ease-in-out;
    }

    c {
      grid-template-areas:
        'head head'
        'tide wind';
      grid-template-columns: [full] minmax(1rem, 1fr)
        [main];
      font-family: 'Tide Sans', serif, monospace;
    }

    d {
      --quay: a  b;
      --mole: calc( 1px+2px );
    }
    ");
}

#[test]
fn at_rules() {
    insta::assert_snapshot!(lay("css", "\
@charset \"utf-8\";
@import url(tides.css)  screen;
@namespace svg url(http://example.org/svg);
@media (min-width:40em)and (orientation : landscape),print{a{b:c}}
@supports (display:grid) and (not (display:inline-grid)){a{b:c}}
@keyframes ebb{from{opacity:0}50%,to{opacity:1}}
@font-face{font-family:Tide;src:url(a.woff2)format('woff2')}
@layer base,theme;
@container (min-width:40em){a{b:c}}
@property --level{syntax:'<number>';inherits:false}
"), @r#"
    @charset "utf-8";
    @import url(tides.css) screen;
    @namespace svg url(http://example.org/svg);

    @media (min-width: 40em) and (orientation: landscape), print {
      a {
        b: c;
      }
    }

    @supports (display: grid) and (not (display: inline-grid)) {
      a {
        b: c;
      }
    }

    @keyframes ebb {
      from {
        opacity: 0;
      }
      50%, to {
        opacity: 1;
      }
    }

    @font-face {
      font-family: Tide;
      src: url(a.woff2) format('woff2');
    }

    @layer base, theme;

    @container (min-width: 40em) {
      a {
        b: c;
      }
    }

    @property --level {
      syntax: '<number>';
      inherits: false;
    }
    "#);
}

#[test]
fn what_stands_on_one_line_may_stay_there() {
    let settings = [("flat_block", "", "keep"), ("list_wrap", "", "keep_open")];
    insta::assert_snapshot!(lay_with("css", &settings, "\
a, b { color:red; margin:0 }
c,
d{ color : blue; }
"), @"
    a, b { color: red; margin: 0; }

    c,
    d { color: blue; }
    ");
    let settings = [("statement_end", "", "bare"), ("open_brace", "type", "next_line")];
    insta::assert_snapshot!(lay_with("css", &settings, "a { color: red; margin: 0; }\n"), @"
    a
    {
      color: red;
      margin: 0
    }
    ");
}

#[test]
fn only_what_is_touched_changes() {
    let old = "a{b:c}\nd {\n    e:f;\n    g:h;\n}\n";
    let new = "a{b:c}\nd {\n    e:f;\n    g:i;\n}\n";
    assert_eq!(touched("css", old, new), "a{b:c}\nd {\n    e:f;\n    g: i;\n}\n");
}

/// Selectors keep their lines in rows, the last one, too, though it may be one word.
#[test]
fn selectors_in_rows_keep_their_lines() {
    let text = "input,\nselect {\n  color: red;\n}\n\ntd, th,\ntr {\n  color: red;\n}\n";
    assert_eq!(lay_with("css", &[("list_wrap", "", "rows")], text), text);
    assert_eq!(lay_with("css", &[("list_wrap", "", "keep_open")], text), text);
    let flat = text.replace(",\n", ", ");
    assert_eq!(lay_with("css", &[("list_wrap", "", "rows")], &flat), flat);
    assert_eq!(lay_with("css", &[("list_wrap", "", "fit")], text), flat);
}

#[test]
fn colours_units_and_zeros_are_spelt_as_agreed() {
    let text = "\
#FFF,
a {
  color: #A0c8F0;
  margin: .5EM -0.5Px +.25q 1e3PX 10.0% 00.5px 0;
  width: calc(1KHZ * 0.5);
  --tide: .5EM #FFF;
  content: \"#FFF .5EM\";
}
";
    let lay = |color, unit, zero| {
        let settings = [
            ("letter_case", "color", color),
            ("letter_case", "unit", unit),
            ("leading_zero", "", zero),
        ];
        let laid = lay_with("css", &settings, text);
        let lines: Vec<&str> = laid.lines().skip(2).take(3).map(str::trim).collect();
        assert!(laid.starts_with("#FFF") && laid.contains("--tide: .5EM #FFF;"), "{laid}");
        lines.join("\n") + "\n"
    };
    insta::assert_snapshot!(
        lay("lower", "lower", "true") + &lay("upper", "keep", "false") + &lay("keep", "keep", "keep"),
        @"
        color: #a0c8f0;
        margin: 0.5em -0.5px +0.25Q 1e3px 10.0% 00.5px 0;
        width: calc(1kHz * 0.5);
        color: #A0C8F0;
        margin: .5EM -.5Px +.25q 1e3PX 10.0% 00.5px 0;
        width: calc(1KHZ * .5);
        color: #A0c8F0;
        margin: .5EM -0.5Px +.25q 1e3PX 10.0% 00.5px 0;
        width: calc(1KHZ * 0.5);
        "
    );
}

#[test]
fn a_dialects_own_constructs_are_words_between_those_of_plain_sheets() {
    insta::assert_snapshot!(lay("scss", "\
@use 'tides' with ($gap: 2px);
$map:( 'low': 1,
 'high': 2 )!default;
@mixin ebb( $a,$b:2px ){border:$a solid $b}
%panel{margin:-($a + $b) auto}
.a{ @extend %panel;@include ebb(1px);
&-b,.c &{color:map-get( $map,'low' )}
&:hover{width:calc( 100% - #{$gap} )}
@if $a==1 and $b{float:none}@else if not $c{float:left}
@else{float:right}
font:{size:2px}   // low
}
@each $n,$c in $map{.x-#{$n}{color:$c}}
"), @"
    @use 'tides' with ($gap: 2px);
    $map: ( 'low': 1,
     'high': 2 )!default;

    @mixin ebb( $a,$b:2px ) {
      border: $a solid $b;
    }

    %panel {
      margin: -($a + $b) auto;
    }

    .a {
      @extend %panel;
      @include ebb(1px);

      &-b,
      .c & {
        color: map-get($map, 'low');
      }

      &:hover {
        width: calc(100% - #{$gap});
      }

      @if $a==1 and $b {
        float: none;
      } @else if not $c {
        float: left;
      }
      @else {
        float: right;
      }

      font: {
        size: 2px;
      } // low
    }

    @each $n,$c in $map {
      .x-#{$n} {
        color: $c;
      }
    }
    ");
    insta::assert_snapshot!(lay("less", "\
@gap:2px;@tone:~'navy';
.ebb(@a;@b:2px) when (@a>1){width:@a}
.a{ .ebb(1px;2px);.panel;
&:extend(.b all);
&-@{gap}{color:fade( @tone,50% )!important}
@media (min-width:@gap){color:@@name}   // low
}
"), @"
    @gap: 2px;
    @tone: ~'navy';

    .ebb(@a;@b:2px) when (@a>1) {
      width: @a;
    }

    .a {
      .ebb(1px;2px);
      .panel;
      &:extend(.b all);

      &-@{gap} {
        color: fade(@tone, 50%) !important;
      }

      @media (min-width: @gap) {
        color: @@name;
      } // low
    }
    ");
}

#[test]
fn a_line_of_a_dialect_is_touched_alone() {
    let old = "$a :1px;\n$b:(\n  c: d,\n  e: f\n)  ;\n.g{h:$a}\n";
    let text = old.replace("e: f\n", "e:  g\n");
    assert_eq!(touched("scss", old, &text), text.replace(")  ;", ");").replace("$b:(", "$b: ("));
    let text = old.replace("h:$a", "h:$b");
    assert_eq!(touched("scss", old, &text), text.replace(".g{h:$b}", ".g {\n  h: $b;\n}"));
}

/// One blank before each value sets none of them off, however many there should be.
#[test]
fn values_that_end_together_by_chance_are_no_column() {
    let text =
        "a {\n  top: 0;\n  margin-right: -1px;\n  padding: 7px 0 8px;\n  z-index: 9999;\n}\n";
    let canon = [("pair_gap", "value", "none"), ("columns", "value", "keep")];
    assert_eq!(lay_with("css", &canon, text), text.replace(": ", ":"));
}

#[test]
fn a_kept_gap_before_a_list_of_values_is_the_one_that_is_there() {
    let keep = [("pair_gap", "value", "keep"), ("list_wrap", "", "rows")];
    let text =
        "a {\n  transition: top 1s, left 2s;\n  font:serif, Tide;\n  src:  url(a), url(b);\n}\n";
    assert_eq!(lay_with("css", &keep, text), text);
    let broken = "a {\n  transition:\n    top 1s,\n    left 2s;\n}\n";
    assert_eq!(lay_with("css", &keep, broken), broken);
}

/// A sum needs a blank on each side of its sign: without one it is none, and stays none.
#[test]
fn white_space_around_the_sign_of_a_sum_shows() {
    let text = "a {\n  width: calc((1px * 2)  -  3px);\n  height: calc((1px * 2)- 3px);\n}\n";
    for language in ["css", "scss", "less"] {
        assert_eq!(lay(language, text), text.replace("  -  ", " - "));
        let grammar = &languages::by_name(language).expect("a language that there is").grammar;
        let spaced = text.replace(")- ", ") - ");
        assert!(!crate::proof::same(grammar, text, &spaced));
    }
}

/// Values in braces are whoever's they are.
#[test]
fn the_values_of_a_property_stand_where_it_is_agreed() {
    let under = "a {\n  src: local(\"a\"),\n       url(\"saltmarsh.woff2\") format(\"woff2\"),\n       url(\"b\");\n}\n";
    let below = under.replace("src: local", "src:\n    local").replace("       url", "    url");
    let narrow = |align| [("wrap_align", "value", align), ("max_line_length", "", "40")];
    for (align, text, wanted) in [
        ("any", under, under),
        ("any", &below, &below),
        ("keep", under, under),
        ("keep", &below, &below),
        ("bracket", &below, under),
        ("bracket", under, under),
        ("step", &below, &below),
    ] {
        for language in ["css", "scss", "less"] {
            assert_eq!(lay_with(language, &narrow(align), text), wanted, "{language}, {align}");
        }
    }
    let flat = "a {\n  font-family: \"Tide Sans\", Saltmarsh, sans-serif;\n}\n";
    let opened = "a {\n  font-family:\n    \"Tide Sans\",\n    Saltmarsh,\n    sans-serif;\n}\n";
    let beside = "a {\n  font-family: \"Tide Sans\",\n               Saltmarsh,\n               sans-serif;\n}\n";
    assert_eq!(lay_with("css", &narrow("any"), flat), opened);
    assert_eq!(lay_with("css", &narrow("bracket"), flat), beside);
    // A row in play goes under the first value, with the others.
    let long = under.replace("saltmarsh", &"saltmarsh".repeat(8));
    let edited = long.replace("       url(\"b\")", "  url( \"b\" )");
    assert_eq!(touched("css", &long, &edited), long.replace("url(\"b\")", "url( \"b\" )"));
}

/// What stands first in blocks on the lines of their headers may be lined up, too.
#[test]
fn what_begins_in_flat_blocks_stands_in_one_column() {
    let rows = ".ebb {     top: 0; }\n.flood {   top: 1rem; }\n.surging { top: 2rem; }\n";
    let style = [
        ("flat_block", "", "keep"),
        ("columns", "value", "keep"),
        ("blank_lines", "between_types", "0"),
    ];
    assert_eq!(lay_with("css", &style, rows), rows);
    let chance = rows.replace(".flood {   top", ".flood {  top");
    let alone = ".ebb { top: 0; }\n.flood { top: 1rem; }\n";
    assert_eq!(lay_with("css", &style, &chance.replace(".surging { top: 2rem; }\n", "")), alone);
}

/// `not(` is the name of a function that nobody knows, and what asks for it is never so.
#[test]
fn a_word_and_the_parenthesis_that_it_touches_stay_together() {
    for language in ["css", "scss", "less"] {
        let sheet = |query: &str| format!("@media {query} {{\n  a {{\n    b: c;\n  }}\n}}\n");
        for query in [
            "(not(hover))",
            "screen and(color)",
            "not(color)",
            "screen and (color)",
            "not (color)",
        ] {
            assert_eq!(lay(language, &sheet(query)), sheet(query), "{language}");
        }
        let wide = lay(language, &sheet("screen  and  (color)or (hover)"));
        assert_eq!(wide, sheet("screen and (color) or (hover)"), "{language}");
    }
    let one = languages::by_name("css").expect("a language that there is");
    let (apart, together) = (
        "@media not (hover) { a { b: c; } }",
        "@media not(hover) { a { b: c; } }",
    );
    assert!(!crate::proof::same(&one.grammar, apart, together));
}

#[test]
fn values_in_braces_stay_as_they_are() {
    let text = ":root{--quay:{a:b};--ebb: {c:d;\n e : f}\n}\n";
    let wanted = ":root {\n  --quay: {a:b};\n  --ebb: {c:d;\n e : f};\n}\n";
    assert_eq!(lay("css", text), wanted);
    assert_eq!(lay("scss", text), wanted);
}

#[test]
fn comments_behind_one_another_stay_behind_what_they_speak_of() {
    let text = "a {\n  top: 1px; /* ebb */ /* and flood */\n}\n/* end */\n\nb {\n  top: 2px;\n}\n";
    assert_eq!(lay("css", text), text);
}

#[test]
fn what_closes_behind_a_comment_stands_as_far_in_as_its_line() {
    for text in [
        "$levels: (\n  \"low\": 1px, // ebb\n  \"high\": 2px, // storm\n  // last\n);\n",
        ".tide {\n  width: level(\n    $low,\n    $high\n    // last\n  );\n}\n",
    ] {
        assert_eq!(lay("scss", text), text);
    }
}

/// A comment that touches an at-rule is no end of it.
#[test]
fn a_comment_beside_an_at_rule_stays_one() {
    let text = ".a { @include b/* why */ }\n";
    assert!(!faults("scss", text).is_empty());
    assert_eq!(lay("scss", ".a { @include b /*why*/}\n"), ".a {\n  @include b; /*why*/\n}\n");
}

#[test]
fn rules_below_what_they_say_more_of_may_stand_further_in() {
    let keep = [("rule_indent", "", "keep")];
    let text = "\
.tide {
  color: navy;
}

  /* what falls */
  .tide .ebb,
  .tide .low {
    color: gray;
  }

/* what somebody points at */
    .tide .ebb:hover {
      color: red;
    }

.buoy {
  color: red;
}

@media print {
  .tide {
    color: black;
  }

    .tide .ebb {
      color: black;
    }
}
";
    assert_eq!(lay_with("css", &keep, text), text);
    let tabs = text.replace("  ", "\t");
    let in_tabs = [("rule_indent", "", "keep"), ("indent_style", "", "tab")];
    assert_eq!(lay_with("css", &in_tabs, &tabs), tabs);
    // One step at a time, and whole ones.
    let far = text.replace("    .tide .ebb:hover {", "          .tide .ebb:hover {");
    assert_eq!(lay_with("css", &keep, &far), text);
    // Nor more than a few.
    let deep: String = (0..300).map(|at| format!("{:at$}a {{}}\n", "", at = 2 * at)).collect();
    assert!(lay_with("css", &keep, &deep).ends_with("\n                a {}\n"));
    let uneven = ".tide {}\n\n   .ebb {\n     color: gray;\n   }\n";
    assert_eq!(lay_with("css", &keep, uneven), ".tide {}\n\n.ebb {\n  color: gray;\n}\n");
    assert_eq!(lay_with("css", &[], "a {}\n\n  b {}\n"), "a {}\n\nb {}\n");
}

/// What a function takes has a line each where there is no room, if it is all of a value or of a part of one.
#[test]
fn what_a_function_takes_may_have_lines() {
    insta::assert_snapshot!(lay("css", "\
.gauge {
  background: linear-gradient(to right, rgba(255, 255, 255, 0.1) 0%, rgba(255, 255, 255, 0.5) 50%, navy 100%);
  background-image: linear-gradient(to right, rgba(0, 0, 0, 0.1), rgba(0, 0, 0, 0.9)), url(chart.png);
  width: calc(100% - (var(--width-of-the-gauge) + var(--left-of-the-page) + var(--right-of-the-page)));
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr)) [end] repeat(auto-fill, minmax(10px, 1fr)) 2fr;
  color: rgb(
    0 0 0
  );
}
"), @"
    .gauge {
      background: linear-gradient(
        to right,
        rgba(255, 255, 255, 0.1) 0%,
        rgba(255, 255, 255, 0.5) 50%,
        navy 100%
      );
      background-image:
        linear-gradient(to right, rgba(0, 0, 0, 0.1), rgba(0, 0, 0, 0.9)),
        url(chart.png);
      width: calc(
        100% - (var(--width-of-the-gauge) + var(--left-of-the-page) + var(--right-of-the-page))
      );
      grid-template-columns: repeat(auto-fit, minmax(200px, 1fr)) [end] repeat(auto-fill, minmax(10px, 1fr)) 2fr;
      color: rgb(0 0 0);
    }
    ");
    let keep = [("list_wrap", "", "rows")];
    let text = "\
.gauge {
  clip-path: polygon(
    0 0, 100% 0,
    100% 100%, 0 100%
  );
  background-image:
    linear-gradient(
      to right,
      red,
      blue
    ),
    url(a.png);
  background: -webkit-gradient(linear, left top,
                               left bottom, from(red));
}
";
    assert_eq!(lay_with("css", &keep, text), text);
    let below = ".gauge {\n  clip-path:\n    polygon(\n      0 0, 100% 0,\n      100% 100%, 0 100%\n    );\n}\n";
    assert_eq!(lay_with("css", &keep, below), below);
}

/// What stands on lines by choice stays there: blank ones before `@else`, and code that was commented out.
#[test]
fn lines_that_somebody_left_between_and_before_stay() {
    let text = "\
@mixin tide($level) {
  @if $level == 1 {
    color: navy;
  }

  // Higher.
  @else if $level == 2 {
    color: red;
  }

  @else {
/*  color: gray;
    top: 0; */
    left: 0;
/*\tright: 0; */
  }
}
";
    assert_eq!(lay("scss", text), text);
    let beside = text.replace("/*  color: gray;\n    top: 0; */", "/* gray */");
    assert_eq!(lay("scss", &beside), beside.replace("/* gray", "    /* gray"));
}

#[test]
fn selectors_and_sums_that_somebody_broke_stay_so() {
    let sheet = "\
.quay .buoy
  .tide
  > .ebb:not(
    .low,
    .high .flood
  )
  + .slack {
  right: calc(
    (
      1em +
        2px
    ) * 3
  );
  left: calc(1em + 2px);
}

@keyframes tide {
  0%,
  100% {
    top: 0;
  }

  20%, 80% {
    top: 1px;
  }
}
";
    for language in ["css", "scss", "less"] {
        assert_eq!(lay(language, sheet), sheet, "{language}");
        let moved = sheet.replace("  + .slack", "      +   .slack").replace("    .low", ".low");
        assert_eq!(lay(language, &moved), sheet, "{language}");
    }
    // Arguments on lines of their own are joined where no sum is.
    let open = ".quay {\n  color: rgb(\n    0,\n    0,\n    0\n  );\n}\n";
    assert_eq!(lay("css", open), ".quay {\n  color: rgb(0, 0, 0);\n}\n");
}
