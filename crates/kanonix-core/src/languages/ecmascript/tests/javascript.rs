//! How JavaScript is laid out, construct by construct.

use crate::languages::testing::{faults, lay, lay_with, lines};

#[test]
fn modules() {
    let laid = lay("javascript", &lines(&[
        "import a,{b as  c,default as d}from  'e'",
        "import  * as f from 'g'",
        "import  'h'",
        "export {i as  j}",
        "export  *from 'k'",
        "export  *  as l from 'm'",
        "export  default function(){}",
        "export const  n=1",
        "export default class{}",
    ]));
    insta::assert_snapshot!(laid, @"
    import a, { b as c, default as d } from 'e'
    import * as f from 'g'
    import 'h'
    export { i as j }
    export * from 'k'
    export * as l from 'm'
    export default function() {}
    export const n = 1
    export default class {}
    ");
}

#[test]
fn declarations() {
    let laid = lay("javascript", &lines(&[
        "var a=1,b , c",
        "let {d,e:f=1,...g}=h",
        "const [i,,j=2,...k]=l",
        "function  m ( a,b=1,{c},...d ){ }",
        "async  function * n(){ }",
        "class A  extends  B{ }",
        "class C{",
        "static  x=1;",
        "#y",
        "get z(){return 1}",
        "static{ a }",
        "async *[w](){}",
        "}",
    ]));
    insta::assert_snapshot!(laid, @"
    var a = 1, b, c
    let { d, e: f = 1, ...g } = h
    const [i, , j = 2, ...k] = l
    function m(a, b = 1, { c }, ...d) {}
    async function* n() {}
    class A extends B {}
    class C {
      static x = 1;
      #y
      get z() {
        return 1
      }
      static {
        a
      }
      async *[w]() {}
    }
    ");
}

#[test]
fn control_flow() {
    let laid = lay("javascript", &lines(&[
        "if(a)b();else  c()",
        "if(a){b}else  if(c){d}else{e}",
        "for(let i=0;i<j;i++){k}",
        "for(;;){break}",
        "for(const a  of b)c()",
        "for  await(const a of b){}",
        "for(a  in b);",
        "while(a)b++",
        "do  a();while(b)",
        "switch(a){case  1:case 2:b();break",
        "default:{c()}}",
        "try{a()}catch{b()}finally{c()}",
        "try{a()}catch( e ){b()}",
        "for(let i=0;;i++)k()",
        "outer:for(;;)continue  outer",
        "throw  new  Error( a )",
        "debugger",
    ]));
    insta::assert_snapshot!(laid, @"
    if (a) b(); else c()
    if (a) {
      b
    } else if (c) {
      d
    } else {
      e
    }
    for (let i = 0; i < j; i++) {
      k
    }
    for (;;) {
      break
    }
    for (const a of b) c()
    for await (const a of b) {}
    for (a in b);
    while (a) b++
    do a(); while (b)
    switch (a) {
      case 1:
      case 2:
        b();
        break
      default: {
        c()
      }
    }
    try {
      a()
    } catch {
      b()
    } finally {
      c()
    }
    try {
      a()
    } catch (e) {
      b()
    }
    for (let i = 0; ; i++) k()
    outer: for (;;) continue outer
    throw new Error(a)
    debugger
    ");
}

#[test]
fn operators() {
    let laid = lay("javascript", &lines(&[
        "a=b+c*d**e%f",
        "a=!b&&c||d??e",
        "a=b===c!==d",
        "a+=1,b||=c",
        "a=typeof  b+void  0-(- -c)",
        "a=b?c:d?e:f",
        "a= ++b+c--",
        "a=b  in c",
        "a=b  instanceof c",
        "delete  a.b",
    ]));
    insta::assert_snapshot!(laid, @"
    a = b + c * d ** e % f
    a = !b && c || d ?? e
    a = b === c !== d
    a += 1, b ||= c
    a = typeof b + void 0 - (- -c)
    a = b ? c : d ? e : f
    a = ++b + c--
    a = b in c
    a = b instanceof c
    delete a.b
    ");
}

#[test]
fn calls_and_members() {
    let laid = lay("javascript", &lines(&[
        "a . b ?. c [ d ] ?. ( e )",
        "new  A",
        "new  A . B( c )",
        "f( a,...b )",
        "tag `x`",
        "import( 'a' )",
        "a=async  x=>await  x",
        "a=(x,y)=>({ x })",
        "a=x=>{return x}",
        "super . a( )",
        "new . target",
        "(function( ){ } )( )",
    ]));
    insta::assert_snapshot!(laid, @"
    a.b?.c[d]?.(e)
    new A
    new A.B(c)
    f(a, ...b)
    tag`x`
    import('a')
    a = async x => await x
    a = (x, y) => ({ x })
    a = x => {
      return x
    }
    super.a()
    new.target(function() {})()
    ");
}

#[test]
fn literals() {
    let laid = lay("javascript", &lines(&[
        "a={ }",
        "a={b,c:1,'d':2,[e]:3,f(){ },get g(){return 1},...h,async  *i(){}}",
        "a=[ 1,2 , 3 ]",
        "a=/x/g",
        "a=`b${ c }d`",
        "a=[ ]",
    ]));
    insta::assert_snapshot!(laid, @"
    a = {}
    a = {
      b,
      c: 1,
      'd': 2,
      [e]: 3,
      f() {},
      get g() {
        return 1
      },
      ...h,
      async *i() {}
    }
    a = [1, 2, 3]
    a = /x/g
    a = `b${ c }d`
    a = []
    ");
}

#[test]
fn long_lines_open_what_is_outermost() {
    let settings = [
        ("max_line_length", "", "40"),
    ];
    let laid = lay_with("javascript", &settings, &lines(&[
        "import { aaaaaaaaaaaa, bbbbbbbbbb, ccccccccc } from 'd'",
        "const { aaaaaaaaaaaa, bbbbbbbbbb, cccccccccc } = d",
        "function aaaaaaaaaaa(bbbbbbbbbb, cccccccccc, ddd) {}",
        "const a = bbbbbbbbbbbbbbb || cccccccccccccccccc || d",
        "const a = bbbbbbbbbbbbbbbbb ? cccccccccccccc : ddddddd",
        "const f = (aaaaaaaaaa) => bbbbbbbbbbbbbbbbbbbbbbbbbbbbb",
        "return aaaaaaaaaaaaaaaa && bbbbbbbbbbbbbbbb && ccccccc",
        "a.b.c(dddddddddddddd, eeeeeeeeeeeeeee, ffffffffffffff)",
        "for (let iiiiiiiiiiiiiiii = 0; jjjjjjjjjjjjjj; kkkk++) {}",
        "f(aaaaaaaaa, async (bbbbbbb, ccccccc) => { d() })",
    ]));
    insta::assert_snapshot!(laid, @"
    import {
      aaaaaaaaaaaa,
      bbbbbbbbbb,
      ccccccccc
    } from 'd'
    const {
      aaaaaaaaaaaa,
      bbbbbbbbbb,
      cccccccccc
    } = d
    function aaaaaaaaaaa(
      bbbbbbbbbb,
      cccccccccc,
      ddd
    ) {}
    const a = bbbbbbbbbbbbbbb ||
      cccccccccccccccccc ||
      d
    const a = bbbbbbbbbbbbbbbbb
      ? cccccccccccccc
      : ddddddd
    const f = (aaaaaaaaaa) =>
      bbbbbbbbbbbbbbbbbbbbbbbbbbbbb
    return aaaaaaaaaaaaaaaa &&
      bbbbbbbbbbbbbbbb &&
      ccccccc
    a.b.c(
      dddddddddddddd,
      eeeeeeeeeeeeeee,
      ffffffffffffff
    )
    for (
      let iiiiiiiiiiiiiiii = 0;
      jjjjjjjjjjjjjj;
      kkkk++
    ) {}
    f(aaaaaaaaa, async (
      bbbbbbb,
      ccccccc
    ) => {
      d()
    })
    ");
}

#[test]
fn quotes_and_statement_ends() {
    let settings = [
        ("quotes", "", "double"),
        ("statement_end", "", "semicolon"),
    ];
    let laid = lay_with("javascript", &settings, &lines(&[
        "a = 'b'",
        "c = 'it\"s'",
        "let d = () => { return 'e' }",
        "class F { g = 'h' }",
        "export default i",
        "do j(); while (k)",
    ]));
    insta::assert_snapshot!(laid, @r#"
    a = "b";
    c = 'it"s';
    let d = () => {
      return "e";
    };
    class F {
      g = "h";
    }
    export default i;
    do j(); while (k);
    "#);
}

#[test]
fn flat_blocks_are_kept_if_so_agreed() {
    let settings = [
        ("flat_block", "", "keep"),
        ("statement_end", "", "bare"),
    ];
    let laid = lay_with("javascript", &settings, &lines(&[
        "if (a) { b(); c(); }",
        "f(function () { return 1; })",
        "switch (a) { case 1: b(); break;",
        "}",
    ]));
    insta::assert_snapshot!(laid, @"
    if (a) { b(); c() }
    f(function () { return 1 })
    switch (a) {
      case 1: b(); break
    }
    ");
}

#[test]
fn inner_gaps_and_tight_operators() {
    let settings = [
        ("inner_gap", "parens", "true"),
        ("inner_gap", "brackets", "true"),
        ("inner_gap", "braces", "false"),
        ("operator_gap", "", "false"),
    ];
    let laid = lay_with("javascript", &settings, &lines(&[
        "f(a, [b], { c })",
        "x = a[b] + c && !d ? e : f",
        "for (let i = 0; i < 1; i++) { }",
    ]));
    insta::assert_snapshot!(laid, @"
    f( a, [ b ], {c} )
    x=a[ b ]+c&& !d?e:f
    for ( let i=0; i<1; i++ ) {}
    ");
}

#[test]
fn a_flat_block_that_is_kept_has_its_brace_on_its_line_until_it_does_not_fit() {
    let settings = [
        ("flat_block", "", "keep"),
        ("open_brace", "", "next_line"),
        ("max_line_length", "", "40"),
    ];
    insta::assert_snapshot!(lay_with("javascript", &settings, &lines(&[
        "if(ebb){ warn(); }",
        "const low = function () { return ebb; };",
        "if (ebb)",
        "{ warn(); }",
        "if (ebb && neap) { warn(theKeepersOfTheQuay); }",
        "const level = low ? function () { return ebb + 1; } : constant(springTide);",
        "{ ebb; }",
    ])), @"
    if (ebb) { warn(); }
    const low = function () { return ebb; };
    if (ebb)
    {
      warn();
    }
    if (ebb && neap)
    {
      warn(theKeepersOfTheQuay);
    }
    const level = low
      ? function () { return ebb + 1; }
      : constant(springTide);
    { ebb; }
    ");
}

#[test]
fn blanks_inside_a_flat_block_are_agreed_on_by_themselves() {
    let text = "f(() => {a(); b();});\nf(() => { c(); });\n";
    let block = |value| {
        lay_with("javascript", &[("flat_block", "", "keep"), ("inner_gap", "block", value)], text)
    };
    assert_eq!(block("keep"), text);
    assert_eq!(block("true"), "f(() => { a(); b(); });\nf(() => { c(); });\n");
    assert_eq!(block("false"), "f(() => {a(); b();});\nf(() => {c();});\n");
}

#[test]
fn what_somebody_broke_stays_broken_and_a_comment_speaks_of_what_follows() {
    insta::assert_snapshot!(lay("javascript", &lines(&[
        "Gauge.low = ",
        "Gauge.high = function() {",
        "return 1;",
        "};",
        "gauges.",
        "filter(low).",
        "map(mend);",
        "if (ebb) {",
        "  mend();",
        "// The water rises.",
        "} else {",
        "  warn();",
        "// Nothing else is done.",
        "}",
    ])), @"
    Gauge.low =
    Gauge.high = function() {
      return 1;
    };
    gauges
      .filter(low)
      .map(mend);
    if (ebb) {
      mend();
    // The water rises.
    } else {
      warn();
      // Nothing else is done.
    }
    ");
}

#[test]
fn a_function_that_is_called_inside_a_namespace_is_one() {
    let text = "(function() {\n\nvar quay = 1;\n\n(function(mole) {\n\nmend(mole);\n\n})(quay);\n\n\
                listen(function() {\n  warn();\n});\n\n})();\n";
    let settings = [("namespace_indent", "", "false"), ("blank_lines", "at_edges", "1")];
    assert_eq!(lay_with("javascript", &settings, text), text);
}

#[test]
fn what_an_arrow_function_gives_goes_to_the_next_line_before_it_is_torn() {
    let narrow = [("max_line_length", "", "40"), ("last_comma", "", "never")];
    let text = "\
let ebb = (level) => look(level, springTide);
let low = (level) => level.ebb < 2 && level.flood > 4;
let all = gauges.map((gauge) => look(gauge, 1));
let far = gauges.map((gauge) => look(gauge, springTide, 1));
let own = (level) => ({ level, quay: 2, mole: 3 });
let next = (level) => (at) => look(level, at, 2);
";
    insta::assert_snapshot!(lay_with("javascript", &narrow, text), @"
    let ebb = (level) =>
      look(level, springTide);
    let low = (level) =>
      level.ebb < 2 && level.flood > 4;
    let all = gauges.map(
      (gauge) => look(gauge, 1)
    );
    let far = gauges.map(
      (gauge) => look(gauge, springTide, 1)
    );
    let own = (level) => ({
      level,
      quay: 2,
      mole: 3
    });
    let next = (level) => (at) =>
      look(level, at, 2);
    ");
}

#[test]
fn one_short_element_has_no_line_of_its_own() {
    let text = "require(\n  './quay'\n);\nwarn(\n  this.level\n);\nlet a = [\n  1\n];\n";
    let wanted = "require('./quay');\nwarn(this.level);\nlet a = [\n  1\n];\n";
    assert_eq!(lay("javascript", text), wanted);
}

/// A break somewhere in what makes a short line anyway.
#[test]
fn what_nobody_would_break_stands_on_one_line() {
    let text = "\
const [
  low
] = levels;
import {
  ebb
} from './tide';
import {
  flood,
} from './tide';
warn(
  low(1)
);
warn(
  low, high
);
warn(
  low,
  high
);
warn(low, high
);
look(level, ebb +
  flood, neap);
const late = now
  > high;
const sum = ebb
  + flood
  - neap;
const both = ebb
  && flood;
if (
  gauge.isOpen()
) open();
warn(springTideAtTheOldQuay, surgeAtNight +
  neap);
";
    let wanted = "\
const [low] = levels;
import { ebb } from './tide';
import {
  flood,
} from './tide';
warn(low(1));
warn(low, high);
warn(
  low,
  high
);
warn(low, high);
look(level, ebb + flood, neap);
const late = now > high;
const sum = ebb +
  flood -
  neap;
const both = ebb &&
  flood;
if (gauge.isOpen()) open();
warn(springTideAtTheOldQuay, surgeAtNight + neap);
";
    let narrow = [("max_line_length", "", "60")];
    assert_eq!(lay_with("javascript", &narrow, text), wanted);
}

#[test]
fn a_value_that_opens_anyway_stays_behind_its_sign() {
    let narrow = [("max_line_length", "", "40"), ("last_comma", "", "never")];
    let text = "let level =\n  look(springTide, neapTide, surge, quay);\nlet at =\n  look(spring, neap, surge, quay);\n";
    let wanted = "let level = look(\n  springTide,\n  neapTide,\n  surge,\n  quay\n);\nlet at =\n  look(spring, neap, surge, quay);\n";
    assert_eq!(lay_with("javascript", &narrow, text), wanted);
}

#[test]
fn an_else_that_takes_lines_begins_one() {
    let text = "if (a) b(); else {\n  c();\n}\nif (a) b(); else c();\nif (a) b(); else if (c) {\n  d();\n}\n";
    let wanted = "if (a) b();\nelse {\n  c();\n}\nif (a) b(); else c();\nif (a) b();\nelse if (c) {\n  d();\n}\n";
    assert_eq!(lay("javascript", text), wanted);
}

/// A word of today may be a name in what was written before.
#[test]
fn using_is_a_name_where_it_declares_nothing() {
    let text = "var a,using=b.using;using(c);d={using:using,e :using in f}\n";
    assert!(faults("javascript", text).is_empty());
    insta::assert_snapshot!(lay("javascript", text), @"
    var a, using = b.using;
    using(c);
    d = { using: using, e: using in f }
    ");
    assert!(faults("javascript", "{\n  using tide = open();\n}\n").is_empty());
}

/// A hole stands as an element would.
#[test]
fn a_hole_has_an_elements_place() {
    let text = "const [, , low] = tides;\na = [1, , 2];\nb = [,];\n";
    assert_eq!(lay("javascript", text), text);
    assert_eq!(lay("javascript", &text.replace(", ,", ",,")), text);
    let apart = [("inner_gap", "brackets", "true")];
    let wanted = "const [ , , low ] = tides;\na = [ 1, , 2 ];\nb = [ , ];\n";
    assert_eq!(lay_with("javascript", &apart, text), wanted);
}

#[test]
fn what_goes_on_with_the_line_below_gets_no_semicolon() {
    let text =
        "{\n  let\n  level = 2;\n  await\n  ebb();\n}\nclass Mole {\n  static\n  high = 2;\n}\n";
    assert_eq!(lay_with("javascript", &[("statement_end", "", "semicolon")], text), text);
}

/// Neither a function with a body nor `i++` is called or looked into: the line below is a statement of its
/// own, without a semicolon between the two.
#[test]
fn what_cannot_go_on_ends_with_its_line() {
    let text = lines(&[
        "const ebb = () => {",
        "  low()",
        "}",
        "[1, 2].forEach(low)",
        "const flood = async level => {",
        "  high(level)",
        "}",
        "(async () => { await flood() })()",
        "ebb++",
        "(low)()",
        "level = high--",
        "[2].map(low)",
        "const slack = () => {}",
        "`${ebb}`.trim()",
        "const neap = () => {}",
        "+low()",
        "class Mole {",
        "  high = () => {}",
        "  ['low'] = 2",
        "  async",
        "  *levels() {}",
        "}",
    ]);
    let laid = lay("javascript", &text);
    assert_eq!(laid, text.replace("{ await flood() }", "{\n  await flood()\n}"));
}

#[test]
fn a_block_with_a_label_is_no_object() {
    let style = [("last_comma", "", "open_list"), ("statement_end", "", "semicolon")];
    let text = "ebb();\n{\n  low: high\n}\n";
    assert_eq!(lay_with("javascript", &style, text), text);
}

/// The mark at the end of a statement that ends another one stays where more follows on its line.
#[test]
fn a_statement_inside_one_on_a_shared_line_keeps_its_end() {
    let style = [("statement_end", "", "bare"), ("flat_block", "", "keep")];
    let text = "switch (ebb) {\n  case 0: while (++i < l) if (a) warn(i); return;\n}\n";
    let laid = lay_with("javascript", &style, text);
    assert_eq!(laid, text.replace("return;", "return"));
}

/// `{` behind `=>` opens a block; what is none is nothing that anyone may lay out.
#[test]
fn a_block_that_does_not_parse_is_no_object() {
    let style = [("open_brace", "", "next_line")];
    let text = "a = () => {\n  ifif (b) {\n    c()\n  }\n}\nd = 1\n";
    assert_eq!(lay_with("javascript", &style, text), text);
    let block = text.replace("ifif", "if");
    assert_ne!(lay_with("javascript", &style, &block), block);
}

#[test]
fn a_list_below_a_function_is_a_statement() {
    let text = "\
const warn = (gauge) => {
  low(gauge)
}

[...gauges, ...buoys].forEach(warn)
";
    for language in ["javascript", "typescript"] {
        assert!(faults(language, text).is_empty());
        assert_eq!(lay(language, text), text);
        assert_eq!(lay(language, &text.replace("  low(", "low( ")), text);
    }
}

/// Of one line it is nobody's choice.
#[test]
fn several_lines_that_somebody_put_below_an_arrow_stay_there() {
    let text = "\
const level = (gauge) =>
  read(gauge, function () {
    warn();
  });
const low = (gauge) => read(gauge);
";
    assert_eq!(lay("javascript", text), text);
    assert_eq!(lay("javascript", &text.replace("=> read(gauge);", "=>\n  read(gauge);")), text);
    let beside = text.replace("=>\n  read", "=> read").replace("    warn", "  warn");
    let beside = beside.replace("  });", "});");
    assert_eq!(lay("javascript", &beside), beside);
}
