//! How TypeScript is laid out, construct by construct.

use crate::languages::testing::{faults, lay, lay_with, lines, touched_with};

#[test]
fn modules_and_declarations() {
    let laid = lay("typescript", &lines(&[
        "import type{A}from 'a'",
        "import  {type B,C  as D} from 'b'",
        "import fs=require( 'fs' )",
        "import E=F.G",
        "export  =H",
        "export as  namespace I",
        "export type{J}",
        "declare  module 'k'{ export const l:number }",
        "declare global{ interface M{} }",
        "namespace N.O{ let p }",
        "const enum Q{ R=1,S }",
        "declare function t<U>(v?:U):asserts v is U",
        "abstract class W<X> extends Y<X> implements Z,A{ }",
        "let b!:number,c:unique symbol",
        "for(const d of e as f[]){ }",
        "try{ }catch(g:unknown){ }",
    ]));
    insta::assert_snapshot!(laid, @"
    import type { A } from 'a'
    import { type B, C as D } from 'b'
    import fs = require('fs')
    import E = F.G
    export = H
    export as namespace I
    export type { J }
    declare module 'k' {
      export const l: number
    }
    declare global {
      interface M {}
    }
    namespace N.O {
      let p
    }
    const enum Q { R = 1, S }
    declare function t<U>(v?: U): asserts v is U
    abstract class W<X> extends Y<X> implements Z, A {}
    let b!: number, c: unique symbol
    for (const d of e as f[]) {}
    try {} catch (g: unknown) {}
    ");
}

#[test]
fn members() {
    let laid = lay("typescript", &lines(&[
        "class A{",
        "@b c:d",
        "@e() f( ){ }",
        "private static readonly g?:h=1",
        "declare i;j!:k",
        "constructor( private l:m,public n?:o ){ }",
        "abstract p( ):q",
        "get r( ):s{ return 1 }",
        "override async*t<U>( this:V,...w:x[] ){ }",
        "[y:string]:z",
        "static{ a }",
        "f(b:c):d;",
        "}",
    ]));
    insta::assert_snapshot!(laid, @"
    class A {
      @b c: d
      @e() f() {}
      private static readonly g?: h = 1
      declare i;
      j!: k
      constructor(private l: m, public n?: o) {}
      abstract p(): q
      get r(): s {
        return 1
      }
      override async *t<U>(this: V, ...w: x[]) {}
      [y: string]: z
      static {
        a
      }
      f(b: c): d;
    }
    ");
}

#[test]
fn types() {
    let laid = lay("typescript", &lines(&[
        "type A=B|C&D",
        "type E=( a:F,...b:G[] )=>H",
        "type I=new(a:J)=>K",
        "type L={a:M,b?:N;readonly c:O}",
        "type P={readonly[Q in keyof R]?:R[Q]}",
        "type S={-readonly [T in U as `${T}`]-?:T}",
        "type V=[a:W,b?:X,...c:Y[]]",
        "type Z=A extends B<infer C extends D>?E:F",
        "type G=typeof h.i['j']|keyof K|readonly L[]",
        "type M=(N|O)[]|-1|'p'|`q${R}`",
        "let s=<T>u,v=w!.x as const,y=z satisfies A",
        "let b=c<D>(e),f=new G<H>(),i=j<K>",
        "function l(m:n):m is o{ }",
    ]));
    insta::assert_snapshot!(laid, @"
    type A = B | C & D
    type E = (a: F, ...b: G[]) => H
    type I = new (a: J) => K
    type L = { a: M, b?: N; readonly c: O }
    type P = { readonly [Q in keyof R]?: R[Q] }
    type S = { -readonly [T in U as `${T}`]-?: T }
    type V = [a: W, b?: X, ...c: Y[]]
    type Z = A extends B<infer C extends D> ? E : F
    type G = typeof h.i['j'] | keyof K | readonly L[]
    type M = (N | O)[] | -1 | 'p' | `q${R}`
    let s = <T>u, v = w!.x as const, y = z satisfies A
    let b = c<D>(e), f = new G<H>(), i = j<K>
    function l(m: n): m is o {}
    ");
}

#[test]
fn interfaces_keep_how_their_members_end() {
    let laid = lay("typescript", "interface A<B=C> extends D,E<F>{ g:h;i( ):j,\nk?:l\n(m:n):o }\n");
    insta::assert_snapshot!(laid, @"
    interface A<B = C> extends D, E<F> {
      g: h;
      i(): j,
      k?: l
      (m: n): o
    }
    ");
}

#[test]
fn alternatives_behind_bars_open_together() {
    let narrow = [("max_line_length", "", "40")];
    let laid = lay_with("typescript", &narrow, &lines(&[
        "type Tide=|'ebb'|'flood'",
        "type Warning=|'storm surge'|'thick fog'|'drifting ice'",
        "type Other='storm surge'|'thick fog'|'drifting ice'",
        "let a:|{ kind:'storm surge' }|{ kind:'thick fog' }",
        "type Level=Base<First>&{ metres:number,above:string }",
    ]));
    insta::assert_snapshot!(laid, @"
    type Tide =
      | 'ebb'
      | 'flood'
    type Warning =
      | 'storm surge'
      | 'thick fog'
      | 'drifting ice'
    type Other =
      | 'storm surge'
      | 'thick fog'
      | 'drifting ice'
    let a:
      | { kind: 'storm surge' }
      | { kind: 'thick fog' }
    type Level = Base<First> & {
      metres: number,
      above: string
    }
    ");
}

#[test]
fn parameters_open_before_the_types_behind_them() {
    let narrow = [("max_line_length", "", "40")];
    let laid = lay_with(
        "typescript",
        &narrow,
        "function read(gauge:string,at:Date):Promise<Level>{ }\n",
    );
    insta::assert_snapshot!(laid, @"
    function read(
      gauge: string,
      at: Date
    ): Promise<Level> {}
    ");
}

#[test]
fn a_header_breaks_before_its_clauses_and_its_body_does_not_move() {
    let narrow = [("max_line_length", "", "40")];
    let laid = lay_with(
        "typescript",
        &narrow,
        "class SurgeForecast extends Forecast<Level> implements Readable{ a=1 }\n",
    );
    insta::assert_snapshot!(laid, @"
    class SurgeForecast
      extends Forecast<Level>
      implements Readable {
      a = 1
    }
    ");
}

#[test]
fn what_may_be_types_or_comparisons_stays() {
    // With the line break gone, a compiler would read two comparisons.
    let text = "expect( a ).is<Tide>\nexpect( b )\n";
    let laid = lay("typescript", text);
    assert!(laid.contains(".is<Tide>\nexpect"), "{laid}");
}

#[test]
fn a_number_keeps_its_distance_from_a_point() {
    let text = "const a = 1\n    .toFixed(2)\n    .padStart(8)\n    .trim()\n";
    for settings in [&[][..], &[("max_line_length", "", "400"), ("list_wrap", "", "fit")]] {
        let laid = lay_with("typescript", settings, text);
        assert!(!laid.contains("1.toFixed"), "{laid}");
    }
}

/// Words that the grammar does not read are part of a name.
#[test]
fn a_type_that_begins_with_an_angle_stays_apart_from_the_one_before_it() {
    let text = "const level = read<\n  <T>(tide: T) => T\n>(2);\n";
    let flat = "const level = read< <T>(tide: T) => T>(2);\n";
    assert_eq!([lay("typescript", text), lay("typescript", flat)], [flat, flat]);
}

#[test]
fn marks_of_variance_and_types_of_modules() {
    let text = "\
interface Gauge<in out Tide,out Ebb>{a:Tide}
type Buoy<in   T> = T
const a=await load<typeof import('./tide')>()
if (a < b, out > c) {}
function f(){using tide=open();for(const b of c)using(b)}
";
    assert!(faults("typescript", &text.replace("in   T", "in T")).is_empty());
    insta::assert_snapshot!(lay("typescript", &text.replace("in   T", "in T")), @"
    interface Gauge<in out Tide, out Ebb> {
      a: Tide
    }
    type Buoy<in T> = T
    const a = await load<typeof import('./tide')>()
    if (a < b, out > c) {}
    function f() {
      using tide = open();
      for (const b of c) using(b)
    }
    ");
    // Only as they are usually written.
    assert!(!faults("typescript", text).is_empty());
}

/// What the grammar does not read, and the language does: everything from another module as types, and
/// signatures that begin with their types behind a line without a semicolon.
#[test]
fn types_that_the_grammar_does_not_read_are_laid_out() {
    let text = "\
export type * from './tide'
export  type * as quay from \"./quay\"
interface Gauge {
  (x: number):string
  <T>(y:T): T
  // why
  /**
   * and when
   */
  <T extends (a: string)=>void>(
    y: T
  ): Array<T>

  <T>(y: T): T
  level:  string
}
const ebb = c
  < d
";
    insta::assert_snapshot!(lay("typescript", text), @r#"
    export type * from './tide'
    export type * as quay from "./quay"
    interface Gauge {
      (x: number): string
      <T>(y: T): T
      // why
      /**
       * and when
       */
      <T extends (a: string) => void>(y: T): Array<T>

      <T>(y: T): T
      level: string
    }
    const ebb = c < d
    "#);
}

/// What stands behind a line's end in another way is no signature.
#[test]
fn what_begins_a_line_as_a_signature_does_stays_what_it_is() {
    let text = "\
function quay() {
  return (
    <p>
      Hello
      <b>(tide)</b>
    </p>
  )
}
const ebb = <T,>(x: T) => x
";
    assert_eq!(lay("tsx", text), text);
    let text = "if (a\n  < b && c >(d)) {\n}\nconst f =\n  <T>(x:T) => {\n  }\n";
    assert!(faults("typescript", text).is_empty());
    insta::assert_snapshot!(lay("typescript", text), @"
    if (a < b && c > (d)) {}
    const f = <T>(x: T) => {}
    ");
}

/// What is declared by `using` in a loop, and a call with types that is the tag of a template.
#[test]
fn loops_that_use_and_tags_with_types() {
    let text = "\
for(using gauge of gauges){gauge.read()}
using (gauge);
const Tide=styled(Text)<{ebb:boolean;level:number}>`
  color: red;
`
const Quay=styled( Tide )<
  Props & { ebb: boolean }
>`color: blue`
const Mole=styled( Tide )<Props>`color: blue`
const isLess=level(1)<2>`3`
";
    insta::assert_snapshot!(lay("typescript", text), @"
    for (using gauge of gauges) {
      gauge.read()
    }
    using(gauge);
    const Tide = styled(Text)<{ebb:boolean;level:number}>`
      color: red;
    `
    const Quay = styled(Tide)<
      Props & { ebb: boolean }
    >`color: blue`
    const Mole = styled(Tide)<Props>`color: blue`
    const isLess = level(1)<2>`3`
    ");
}

/// The compiler reads `new () => (Ebb | Flood)`, and of `readonly Ebb[] | Flood` it wants no bar in front.
#[test]
fn a_bar_leads_only_what_is_one_of_several_types() {
    let style = [("max_line_length", "", "40")];
    insta::assert_snapshot!(lay_with("typescript", &style, "\
type Made = new () => EbbAtTheQuay | FloodAtTheQuay | Slack;
type Read = readonly EbbAtTheQuay[] | FloodAtTheQuay | Slack;
type Kept = (readonly EbbAtTheQuay[]) | FloodAtTheQuay | Slack;
let level: abstract new () => EbbAtTheQuay | FloodAtTheQuay;
"), @"
    type Made = new () => EbbAtTheQuay
      | FloodAtTheQuay
      | Slack;
    type Read = readonly EbbAtTheQuay[]
      | FloodAtTheQuay
      | Slack;
    type Kept =
      | (readonly EbbAtTheQuay[])
      | FloodAtTheQuay
      | Slack;
    let level: abstract new () => EbbAtTheQuay
      | FloodAtTheQuay;
    ");
}

#[test]
fn a_type_that_a_value_is_said_to_have_ends_with_its_line() {
    let text =
        "const ebb = level as Ebb\n(low)()\nconst high = level satisfies Flood\n[1].map(low)\n";
    assert_eq!(lay("typescript", text), text);
}

/// Alternatives that begin with a bar behind another argument are as far in as that.
#[test]
fn alternatives_among_type_arguments_stand_with_them() {
    let text = "\
type A = Omit<
  Gauge,
  | \"ebb\"
  | \"flood\"
>;
type B = Read<
  | Ebb
  | Flood,
  | Level
  | {
      quay: Quay;
    },
  | Slack
  | Moon
>;
";
    assert_eq!(lay("typescript", text), text);
}

#[test]
fn comments_alone_in_a_block_count_from_its_header() {
    let text = "\
class A // the gauge
  extends B {
  // nothing yet
}
if (a // ebb
    && b) {
  // nothing yet
}
";
    assert_eq!(lay("typescript", text), text);
}

#[test]
fn a_bracket_stays_whose_line_and_content_are_not_touched() {
    let base = "\
un(
  o
    ? t(
      f(n),
      (s) => g(s)
    )
    : f(n, o),
  w
)
";
    let text = base.replace("(n, o)", "(n,p)");
    for keeps in [&[][..], &[("indent_size", "", "3"), ("close_bracket", "", "keep")]] {
        let mended = touched_with("typescript", keeps, base, &text);
        assert_eq!(mended, base.replace("(n, o)", "(n, p)"));
    }
}

/// Functions that give one another, one argument a line, stay one below the other behind their sign.
#[test]
fn functions_one_below_the_other_stay_so() {
    let text = lines(&[
        "export const gauge =",
        "  ({",
        "    quay = 'mole',",
        "    level = 0,",
        "  }: Options = {}): Reader =>",
        "  (tide) => {",
        "    return tide;",
        "  };",
        "const buoy =",
        "  (quay: string) =>",
        "  (mole: string) =>",
        "  (tide) => {",
        "    return tide;",
        "  };",
        "read(",
        "  (quay) =>",
        "  (tide) => {",
        "    return tide;",
        "  },",
        ");",
        "const first = (quay) =>",
        "  (tide) => {",
        "    return tide;",
        "  };",
        "read(",
        "  (quay) =>",
        "    (tide) => {",
        "      return tide;",
        "    },",
        ");",
    ]);
    assert_eq!(lay("typescript", &text), text);
    // Behind their sign they stand as those do that begin there.
    let beside = "const buoy =\n  (quay) => (tide) => {\n    read(tide);\n  };\n";
    let wanted = "const buoy = (quay) => (tide) => {\n  read(tide);\n};\n";
    assert_eq!(lay("typescript", beside), wanted);
    let fit = [("list_wrap", "", "fit")];
    let forgets = lay_with(
        "typescript",
        &fit,
        "const a =\n  (quay) =>\n  (tide) => {\n    read(tide);\n  };\n",
    );
    assert_eq!(forgets, "const a = (quay) => (tide) => {\n  read(tide);\n};\n");
}

/// Behind comments, and behind parameters that have types of their own.
#[test]
fn marks_of_variance_in_long_lists_are_read() {
    let text = "\
export interface Gauge<
  /** As its quay has it. */
  out Tide extends Level<Quay> = Level<Quay>,
  in out Ebb extends undefined | Reading<Tide>,
  // Behind a function.
  in Flood extends (tide: Tide) => void = (tide: Tide) => void,
  Out = { low: number, out: Tide },
> {
  tide: Tide;
}

const Quay = class<in E> extends Buoy<E> {};
type Level<out, Ebb> = [out, Ebb];
declare const gauge: { warn: (any) => void };
type Message<T> = T extends string ? T : `No \\`tide\\` in ${T}`;
";
    assert!(faults("typescript", text).is_empty());
    assert_eq!(lay("typescript", text), text);
    assert_eq!(
        lay("typescript", &text.replace(" extends undefined", "   extends  undefined")),
        text
    );
}

/// Alternatives behind a first type have the list's lines, however somebody put them.
#[test]
fn a_list_opens_around_alternatives_behind_another_type() {
    let open = "type Rest = Exclude<\n  Tide,\n  | Ebb\n  | Flood\n>;\n";
    let beside = "type Rest = Exclude<Tide,\n  | Ebb\n  | Flood>;\n";
    let flat = "type Rest = Exclude<Tide, | Ebb | Flood>;\n";
    for wrap in ["fit", "one_each", "keep_open", "row_first"] {
        let style = [("list_wrap", "", wrap)];
        for text in [open, beside, flat] {
            assert_eq!(lay_with("typescript", &style, text), open, "{wrap}");
        }
    }
}

#[test]
fn words_of_the_language_that_are_names_are_read() {
    let text = "\
export { ebb as if, flood as for } from './tide'
interface Gauge {
  name: string
  in: 'quay' | 'buoy'
}
abstract class Buoy extends Gauge {
  abstract override readonly level: number;
  abstract override read(): void;
}
";
    assert!(faults("typescript", text).is_empty());
    assert_eq!(lay("typescript", text), text);
    let text = "export { ebb as if }\n";
    assert_eq!(lay("javascript", &text.replace("{ ebb", "{ebb")), text);
}
