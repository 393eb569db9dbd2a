//! What of style sheets is read, though the grammar would stumble over it.

use crate::languages::testing::{faults, lay, lay_with, touched};
use crate::languages;
use crate::text::LineSet;

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
fn what_a_dialect_does_not_close_is_left_unread() {
    for text in ["a { b: (c; d: e }\n", "a { b: url(c; d: e }\n", "$a: #{b;\n", "@if $a { b: c\n"] {
        for dialect in ["scss", "less"] {
            assert!(!faults(dialect, text).is_empty(), "{dialect}: {text}");
        }
    }
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

#[test]
fn a_string_goes_on_behind_a_line_end_of_any_kind() {
    let text = ".tide {\n  content: \"ebb \\\nflood\";\n  color: navy;\n}\n";
    let returns = text.replace('\n', "\r\n");
    assert_eq!(lay("css", &returns.replace(": navy", ":navy")), returns);
    assert_eq!(lay_with("css", &[("end_of_line", "", "crlf")], text), returns);
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
    // Elsewhere it is none.
    let text = "a::after {\n  quotes: \"  i]\" \"a  s]\";\n}\n";
    assert_eq!(lay("css", text), text);
    let single = [("quotes", "", "single")];
    let text = "a[target=\"_blank\" i] {\n  top: 0;\n}\n";
    assert_eq!(lay_with("css", &single, text), text);
}

/// Where the blanks inside braces are kept, a brace right behind a semicolon is, too.
#[test]
fn a_brace_right_behind_a_semicolon_stays_there() {
    let style = [("inner_gap", "block", "keep"), ("flat_block", "type", "keep")];
    let laid = lay_with("css", &style, "a { top: 0;}\nb { top: 0; }\nc {top: 0; }\nd {top: 0;}\n");
    let wanted = "a { top: 0;}\nb { top: 0; }\nc {top: 0;}\nd {top: 0;}\n";
    assert_eq!(laid, wanted);
    assert_eq!(lay_with("css", &style, wanted), wanted);
}

#[test]
fn what_only_old_browsers_read_is_a_part_of_what_it_stands_behind() {
    let sheet = "\
.quay [class*=\"buoy\"],
.ebb[data-tide*=\"low\"] {
  border-color: #000\\9;
  color: #AABBCC\\0/;
  wid\\th: 6px;
  margin: 2px\\9;
  width: 100px\\0/;
}
";
    for language in ["css", "scss", "less"] {
        assert!(faults(language, sheet).is_empty(), "{language}");
        assert_eq!(lay(language, sheet), sheet, "{language}");
        let spread = sheet.replace("[class*=", "[ class *= ").replace(": #000", ":#000");
        assert_eq!(lay(language, &spread), sheet, "{language}");
    }
}

#[test]
fn interpolations_are_read_wherever_selectors_have_them() {
    let sheet = "\
$widths: (small medium large);

.quay {
  > :not(caption) > :nth-child(#{$columns}) {
    @include ebb(rem((8 16 32), 16));
  }

  &:nth-child(-n + #{$low}):nth-last-child(#{$high}n + 1),
  &:not(:first-child):not(.menu)#{$messages} {
    color: m2.tide-color();
  }
}

@container (min-width: #{$min}) {
  .ebb {
    top: 0;
  }
}

@media screen and (min-width: 0\\0) {
  .ebb {
    top: 0;
  }
}
";
    assert!(faults("scss", sheet).is_empty());
    assert_eq!(lay("scss", sheet), sheet);
    let spread = sheet.replace("    color: m2", "  color:m2").replace(") {\n", "){\n");
    assert_eq!(lay("scss", &spread), sheet);
}

#[test]
fn what_dialects_make_of_rules_and_selectors_is_read() {
    let sheet = "\
$widths: 400px ('min' 200px), (300px 325px) (tide low) slack;
$icon: \\f26e;

@import url($fonts);

@mixin tides($name) {
  @keyframes #{$name} {
    @content;
  }
}

@media (min-width: map.get(map.get($widths, \"quay\"), \"low\")) and (max-width: 40em) {
  .ebb {
    transform: translateY(- $quay);
    margin-bottom: - $quay;
  }
}

.quay {
  > {
    p {
      top: 0;
    }
  }

  .buoy > & >,
  input:checked ~ {
    top: 0;
  }
}

@keyframes ebb {
  $steps: 20;

  @for $i from 0 through $steps {
    top: $i;
  }
}
";
    assert!(faults("scss", sheet).is_empty());
    assert_eq!(lay("scss", sheet), sheet);
    assert_eq!(lay("scss", &sheet.replace("    transform: t", "  transform:t")), sheet);
    let sheet = "\
.color (@quay, @status) {
  padding: .padding(@quay);
  filter: e(%(\"tide(low='%d')\", argb(@low)));
}

@keyframes ~'@{quay}-ebb' {
  0% {
    top: 0;
  }
}

select[multiple]&,
.@{quay}:not(.ebb)&-low {
  background-color: #000 \\9;
}
";
    assert!(faults("less", sheet).is_empty());
    assert_eq!(lay("less", sheet), sheet);
}

/// In plain sheets, too.
#[test]
fn lines_with_several_names_and_layers_inside_one_another_are_read() {
    let sheet = "\
@layer quay.ebb {
  .buoy {
    grid-template-columns: [quay low] repeat(2, 1fr) [high];
  }
}
";
    for language in ["css", "scss", "less"] {
        assert!(faults(language, sheet).is_empty(), "{language}");
        assert_eq!(lay(language, sheet), sheet, "{language}");
    }
}

/// Blocks that a mixin, or a function, is given stand in its parentheses, and what they hold is laid out.
#[test]
fn blocks_that_are_given_are_read() {
    let sheet = "\
.buoy {
  .ltr({
    left: 1px;
    .quay(2px, 3px);
  });
  .rtl({
    right: 1px;
  });
}

each(@tides, {
  .tide-@{value} {
    .if-ebb({
      color: navy;
    });
  }
});

.gauge {
  & when(@ebb) {
    @given();
  }

  .quay(@ebb: darken(navy, 4%); @flood: 2px);
}

@supports (-moz-appearance: meterbar) and (background-blend-mode: difference, normal) {
  .tide {
    color: rgba(0, 0, 0, 0.5);
  }
}

@functions: ~`(function() {
  this.tide = function(a) { return a[\"}\"] };
   })()`;
";
    assert!(faults("less", sheet).is_empty());
    assert_eq!(lay("less", sheet), sheet);
    let hasty = sheet
        .replace("    left: 1px;", "   left:1px;")
        .replace("({\n    right: 1px;\n  })", "({ right:1px })")
        .replace("      color: navy;", "color:navy")
        .replace("2px);\n}\n\n@supports", "2px)\n}\n@supports");
    assert_eq!(lay("less", &hasty), sheet);
    for broken in [
        ".ltr({ left: 1px; }, 2);",
        ".ltr({ left: 1px; };",
        "each({{}});",
        ".ltr({})) { }",
    ] {
        assert!(!faults("less", broken).is_empty(), "{broken}");
    }
}
