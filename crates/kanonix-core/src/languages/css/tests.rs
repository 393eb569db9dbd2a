//! How style sheets are laid out, construct by construct.

use crate::languages;
use crate::languages::testing::{faults, lay, lay_with, touched};
use crate::text::LineSet;

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

/// What newer sheets ask of a page, of an element around, and of an imported sheet, and rules inside others that
/// name those behind something else.
#[test]
fn what_newer_sheets_ask_for_is_read() {
    let rule = |head: &str| format!("{head} {{\n  a {{\n    color: red;\n  }}\n}}\n");
    let heads = [
        "@media (40em <= width < 60em)",
        "@media (width > 40em)",
        "@media screen and (aspect-ratio >= 16/9), print",
        "@media ((width > 3px) and (hover)) or (width > calc(3px + 1em))",
        "@media not (40em < width)",
        "@container quay (width > 40em)",
        "@container (inline-size > 30em)",
        "@container quay (min-width: 4em)",
        "@container style(--tide: ebb) and (width > 3px)",
        "@container not (width < 3px)",
        ".quay &",
        ".quay > &",
        "& .quay &.low, & &",
    ];
    for head in heads {
        let selectors = rule(&head.replace(", &", ",\n&"));
        for language in ["css", "scss", "less"] {
            assert!(faults(language, &selectors).is_empty(), "{language} {head}");
            assert_eq!(lay(language, &selectors), selectors, "{language}");
            let spoilt = selectors.replace("    color: red", "  color:red").replace(" {", "{");
            assert_eq!(lay(language, &spoilt), selectors, "{language}");
        }
    }
    let others = [
        "@import url(\"a.css\") layer(quay) supports(display: grid) screen;\n",
        "@import \"a.css\" layer(quay);\n",
        "@import url(a.css) supports(not (display: grid));\n",
        "@import \"a.css\" layer;\n",
        "@page :first {\n  margin: 1in;\n}\n",
        "@page tide:first {\n  margin: 1in;\n}\n",
    ];
    for text in others {
        for language in ["css", "scss"] {
            assert!(faults(language, text).is_empty(), "{language} {text}");
            assert_eq!(lay(language, text), text, "{language}");
        }
    }
}

/// A text that goes into the sheet as it is written stays as it stands.
#[test]
fn a_text_that_is_written_out_is_read() {
    let text = ".quay {\n  width: ~\"calc(100%  - @{ebb})\";\n  filter: ~'ms:tide()';\n}\n";
    assert!(faults("less", text).is_empty());
    assert_eq!(lay("less", &text.replace(": ~", ":~")), text);
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

/// What only some browsers read stays as it stands, and what is around it does not.
#[test]
fn hacks_are_left_as_they_are() {
    insta::assert_snapshot!(lay("css", "\
a{*zoom :1;color:red;*display:inline}
.b{filter:progid:Tide.Chart(a=1, b = '2' );filter :alpha(opacity = 70);color:red!ie;top:1px! important}
@-moz-document url-prefix(){a{color:red}}
@keyframes ebb{0%{top:0}33.3%{top:1px}}
"), @"
    a {
      *zoom :1;
      color: red;
      *display:inline
    }

    .b {
      filter: progid:Tide.Chart(a=1, b = '2' );
      filter: alpha(opacity = 70);
      color: red!ie;
      top: 1px! important;
    }

    @-moz-document url-prefix() {
      a {
        color: red;
      }
    }

    @keyframes ebb {
      0% {
        top: 0;
      }
      33.3% {
        top: 1px;
      }
    }
    ");
    assert!(!faults("css", "a {\n  color: $tide;\n}\n").is_empty());
    // A text without its end hides nothing behind it.
    let laid = touched("css", "", "a {\n  font: 1px' \"b\", c;\n}\n");
    assert_eq!(laid.matches(';').count(), 1, "{laid}");
    // A comment of other languages.
    assert_eq!(touched("css", "", "// a\nb{}\n"), "// a\nb{}\n");
    // What ends a declaration is missing.
    let text = "a {\n  top: 1px\n  left:2px;\n}\n";
    assert_eq!(touched("css", "", text), text);
}

/// An address needs no quotes, whatever it begins with.
#[test]
fn addresses_are_words() {
    let sheet = "@import url(../tides.css);a{background:url( ./a;b.png ) 0 0,url(//tides.example/b_{1}.png)}\n";
    insta::assert_snapshot!(lay("css", sheet), @"
    @import url(../tides.css);

    a {
      background: url( ./a;b.png ) 0 0, url(//tides.example/b_{1}.png);
    }
    ");
    assert!(faults("css", "a { b: url(../c.png?d=e&f=g#h) }\n").is_empty());
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
fn what_a_dialect_does_not_close_is_left_unread() {
    for text in ["a { b: (c; d: e }\n", "a { b: url(c; d: e }\n", "$a: #{b;\n", "@if $a { b: c\n"] {
        for dialect in ["scss", "less"] {
            assert!(!faults(dialect, text).is_empty(), "{dialect}: {text}");
        }
    }
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

/// A semicolon that ends nothing stays where it is, and nothing around it does.
#[test]
fn semicolons_that_end_nothing_are_read() {
    let text = ".quay{top:0;; ;left:1px ; }\n;\n.ebb{ .flood{top:0};;right:0;;};\n";
    let wanted = "\
.quay {
  top: 0;; ;
  left: 1px;
}
;

.ebb {
  .flood {
    top: 0;
  };;
  right: 0;;
};
";
    let bare = wanted.replace("1px;", "1px").replace("top: 0;\n", "top: 0\n");
    for language in ["css", "scss", "less"] {
        assert_eq!(lay(language, text), wanted, "{language}");
        let canon = [("statement_end", "", "bare")];
        assert_eq!(lay_with(language, &canon, text), bare, "{language}");
        assert_eq!(lay(language, "a{b:c} ;  "), "a {\n  b: c;\n} ;\n");
    }
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
fn a_string_goes_on_behind_a_line_end_of_any_kind() {
    let text = ".tide {\n  content: \"ebb \\\nflood\";\n  color: navy;\n}\n";
    let returns = text.replace('\n', "\r\n");
    assert_eq!(lay("css", &returns.replace(": navy", ":navy")), returns);
    assert_eq!(lay_with("css", &[("end_of_line", "", "crlf")], text), returns);
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

#[test]
fn a_string_ends_on_its_line() {
    let text = "a {\n  b:  \"c\n\";\n}\n";
    let css = languages::by_name("css").expect("a language that there is");
    let judged = crate::judge(text, css, &css.style(), &LineSet::whole());
    assert_eq!((judged.faults.len(), judged.slips.len()), (1, 0));
    assert_eq!(lay("css", "a {b:\"c\"}\n"), "a {\n  b: \"c\";\n}\n");
}

/// However elements are counted, what is around that is laid out.
#[test]
fn counted_elements_are_read() {
    for count in [
        "nth-child(2n-1)",
        "nth-child(2n - 1)",
        "nth-child(+3n - 2)",
        "nth-child(-n - 2)",
        "nth-last-child(2n-1 of .x)",
        "nth-last-child(even of .x, .y)",
        "nth-of-type(-n + 2)",
        "nth-last-of-type(odd)",
        "not(:nth-child(2n-1))",
    ] {
        let text = format!(".gauge:{count}>b{{top:0}}\n");
        let wanted = format!(".gauge:{count} > b {{\n  top: 0;\n}}\n");
        for language in ["css", "scss", "less"] {
            assert_eq!(lay(language, &text), wanted, "{language}");
        }
    }
}

/// What a mixin takes may have comments in it.
#[test]
fn comments_among_what_a_mixin_takes_are_read() {
    let text = "@mixin ebb(\n  // how deep\n  $level,\n  $tone // and how dark\n){top:$level}\n";
    let wanted =
        "@mixin ebb(\n  // how deep\n  $level,\n  $tone // and how dark\n) {\n  top: $level;\n}\n";
    assert_eq!(lay("scss", text), wanted);
}

/// The brace ends an at-rule, too.
#[test]
fn at_rules_that_end_with_their_block_are_read() {
    let text = ".a{ @include b }\n.c { color: red; @include d($e) /* why */ }\n.f { @if $g { @extend %h } }\n";
    let wanted = "\
.a {
  @include b;
}

.c {
  color: red;
  @include d($e); /* why */
}

.f {
  @if $g {
    @extend %h;
  }
}
";
    assert_eq!(lay("scss", text), wanted);
    let canon = [
        ("flat_block", "type", "keep"),
        ("flat_block", "control", "keep"),
        ("inner_gap", "block", "false"),
        ("statement_end", "", "bare"),
    ];
    let text = ".a { @include b }\n";
    assert_eq!(lay_with("scss", &canon, text), ".a {@include b }\n");
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

/// Letters that no English word has make names, wherever these stand.
#[test]
fn names_have_letters_of_every_script() {
    let text = ".ebbe é{color:red}\n.flut>höhe ,.水 .ebbe{width :1px}\n/* — */\n";
    insta::assert_snapshot!(lay("css", text), @"
    .ebbe é {
      color: red;
    }

    .flut > höhe,
    .水 .ebbe {
      width: 1px;
    }
    /* — */
    ");
    assert!(faults("css", text).is_empty());
}

/// The blank that ends a letter's number is part of the name.
#[test]
fn a_name_may_go_on_behind_the_blank_that_ends_a_letters_number() {
    let text = "i.\\35 00px:before {\n  color: red;\n}\n\n.\\31 0 .quay {\n  color: blue;\n}\n";
    assert_eq!(lay("css", text), text);
    assert_eq!(lay("css", &text.replace(" {", "{").replace("0 .", "0   .")), text);
}

/// Desktops name colours, and ask for them; an at-rule that nobody knows stays as it stands.
#[test]
fn sheets_of_desktops_are_read() {
    let text = "@define-color quay #c00;\n@define-color mole   mix(@quay,@ebb, 0.5);\n\n.gauge {\n  color: @quay;\n  border-color: shade(@mole, 0.5);\n}\n";
    assert!(faults("css", text).is_empty());
    assert_eq!(lay("css", text), text);
    assert_eq!(lay("css", &text.replace("color: @quay", "color:@quay")), text);
}

/// A variable may be nothing, and so may what stands for one; how that is spelt, old browsers look at.
#[test]
fn variables_may_be_nothing() {
    let sheet = "\
.quay {
  --tide: ;
  --ebb:;
  --flood:
  ;
  --all: var(--ebb,/*!*/ /*!*/) var(--flood,);
  color: if(style(--tide: high): red; else: blue);
  margin: var(--ebb,);
  width: attr(data-width type(<length>), 10px);
}
";
    for language in ["css", "scss", "less"] {
        assert!(faults(language, sheet).is_empty(), "{language}");
        assert_eq!(lay(language, sheet), sheet, "{language}");
    }
    assert_eq!(
        lay("css", ".quay {\n  margin:var( --ebb, )\n}\n"),
        ".quay {\n  margin: var(--ebb,);\n}\n"
    );
    // Other properties have a value.
    assert_eq!(faults("css", ".quay {\n  margin:;\n}\n").len(), 1);
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
fn whether_the_case_of_an_attribute_counts_is_part_of_its_value() {
    insta::assert_snapshot!(lay("css", "\
a[target=\"_blank\" i],b[lang=en s]>c[href^='#'  I ]{top:0}
"), @r#"
    a[target="_blank" i],
    b[lang=en s] > c[href^='#'  I] {
      top: 0;
    }
    "#);
    let single = [("quotes", "", "single")];
    let text = "a[target=\"_blank\" i] {\n  top: 0;\n}\n";
    assert_eq!(lay_with("css", &single, text), text);
}
