//! How Python is laid out, construct by construct.

use crate::languages::testing::{faults, lay, lay_with, lines, touched};

#[test]
fn imports() {
    let laid = lay("python", &lines(&[
        "import  os,sys",
        "from  . import  a",
        "from ..b.c import (d as  e,f)",
        "from g import *",
        "from __future__ import  h",
    ]));
    insta::assert_snapshot!(laid, @"
    import os, sys
    from . import a
    from ..b.c import (d as e, f)
    from g import *
    from __future__ import h
    ");
}

#[test]
fn a_line_behind_a_join_is_a_step_deeper() {
    let laid = lay("python", &lines(&["a = 1 + \\", " b", "c = d and \\", "         e"]));
    assert_eq!(laid, "a = 1 + \\\n    b\nc = d and \\\n    e\n");
}

#[test]
fn the_innermost_and_the_outermost_statement_around_a_place() {
    let language = crate::languages::by_name("python").unwrap();
    let text = "def f():\n    a = 1\n    b = 2\n\nc = 3\n";
    let tree = crate::syntax::Tree::parse(&language.grammar, text).unwrap();
    let statement = |outermost| &text[tree.statement(&language.grammar, 27, outermost)];
    assert_eq!((statement(false), statement(true)), ("b = 2", "def f():\n    a = 1\n    b = 2"));
}

#[test]
fn definitions() {
    let laid = lay("python", &lines(&[
        "def  f ( a,b:int=1,* ,c = 2,**d )->int :",
        "    pass",
        "async  def g( * args, h=lambda  x,y=1:x ): return",
        "class  A ( B,metaclass = C ) :",
        "    x:int=1",
        "    y : str",
        "class D:pass",
        "@ dec( 1 )",
        "@dec",
        "def i[T:int]( x:T ): ...",
    ]));
    insta::assert_snapshot!(laid, @"
    def f(a, b: int = 1, *, c=2, **d) -> int:
        pass


    async def g(*args, h=lambda x, y=1: x):
        return


    class A(B, metaclass=C):
        x: int = 1
        y: str


    class D:
        pass


    @dec(1)
    @dec
    def i[T: int](x: T): ...
    ");
}

#[test]
fn compound_statements() {
    let laid = lay("python", &lines(&[
        "if a : b",
        "elif(c): d",
        "else : e",
        "for  i ,j in  k : l",
        "else: m",
        "while  n : o",
        "try : p",
        "except( A,B )as  q : r",
        "except C: s",
        "finally : t",
        "with  open( a )as b,c : u",
        "with (a as b,c): v",
        "async def w():",
        "    async  for x in y: z",
        "    async  with a: b",
    ]));
    insta::assert_snapshot!(laid, @"
    if a:
        b
    elif (c):
        d
    else:
        e
    for i, j in k:
        l
    else:
        m
    while n:
        o
    try:
        p
    except (A, B) as q:
        r
    except C:
        s
    finally:
        t
    with open(a) as b, c:
        u
    with (a as b, c):
        v


    async def w():
        async for x in y:
            z
        async with a:
            b
    ");
}

#[test]
fn simple_statements() {
    let laid = lay("python", &lines(&[
        "assert  a,b",
        "del  a,b",
        "raise  A( b )from  c",
        "return  a,b",
        "global  a,b",
        "a=b = c",
        "a+=1 ; b -=2",
        "a : int=1",
        "type  X[T]=list[ T ]",
        "yield",
        "x=yield  y",
        "print( * a,** b )",
    ]));
    insta::assert_snapshot!(laid, @"
    assert a, b
    del a, b
    raise A(b) from c
    return a, b
    global a, b
    a = b = c
    a += 1
    b -= 2
    a: int = 1
    type X[T] = list[T]
    yield
    x = yield y
    print(*a, **b)
    ");
}

#[test]
fn operators() {
    let laid = lay("python", &lines(&[
        "a=b+c*d**e//f@g",
        "a=not  b and  c or d",
        "a=b<c<=d!=e",
        "a=b is  not c not  in d",
        "a=-b+~c- -d",
        "a=b if  c else  d",
        "(a:=b)",
        "a=await  b",
        "a=b|c&d^e<<f",
    ]));
    insta::assert_snapshot!(laid, @"
    a = b + c * d**e // f @ g
    a = not b and c or d
    a = b < c <= d != e
    a = b is not c not in d
    a = -b + ~c - -d
    a = b if c else d
    (a := b)
    a = await b
    a = b | c & d ^ e << f
    ");
}

#[test]
fn collections_and_subscripts() {
    let laid = lay("python", &lines(&[
        "a=[ b,c , ]",
        "a=( b , )",
        "a={ b:c,** d }",
        "a={ b , c }",
        "a=[ b for  c in d if  e ]",
        "a={ b:c for b,c in d }",
        "a=( b for c in d )",
        "a=b[ c ][ d:e ][ :f:2 ][ g+1:h ][ ...,i ]",
        "a=b . c . d( )",
        "a=()",
        "a=[ ]",
    ]));
    insta::assert_snapshot!(laid, @"
    a = [b, c]
    a = (b,)
    a = {b: c, **d}
    a = {b, c}
    a = [b for c in d if e]
    a = {b: c for b, c in d}
    a = (b for c in d)
    a = b[c][d:e][:f:2][g + 1 : h][..., i]
    a = b.c.d()
    a = ()
    a = []
    ");
}

#[test]
fn patterns() {
    let laid = lay("python", &lines(&[
        "match  a :",
        "    case 1|2 : b",
        "    case [ x,* y ]if  z : c",
        "    case { \"k\":v,** rest } : d",
        "    case A( x=1,y = B( ) )as  q : e",
        "    case -1 : f",
        "    case a.b : g",
        "    case _ : h",
    ]));
    insta::assert_snapshot!(laid, @r#"
    match a:
        case 1 | 2:
            b
        case [x, *y] if z:
            c
        case {"k": v, **rest}:
            d
        case A(x=1, y=B()) as q:
            e
        case -1:
            f
        case a.b:
            g
        case _:
            h
    "#);
}

#[test]
fn strings_keep_their_inside() {
    let settings = [
        ("quotes", "", "double"),
    ];
    let laid = lay_with("python", &settings, &lines(&[
        "a='b'  'c'",
        "a=f'{ b }'",
        "a=r'\\d'",
        "a=b'c'",
        "a=\"\"\"b  \"\"\"",
        "a='it\"s'",
    ]));
    insta::assert_snapshot!(laid, @r#"
    a = "b" "c"
    a = f"{ b }"
    a = r"\d"
    a = b"c"
    a = """b  """
    a = 'it"s'
    "#);
}

#[test]
fn long_lines_open_their_lists() {
    let settings = [
        ("max_line_length", "", "40"),
    ];
    let laid = lay_with("python", &settings, &lines(&[
        "f(aaaaaaaaaaaa, bbbbbbbbbbbb, ccccccccccccc)",
        "x = [aaaaaaaaaaaa, bbbbbbbbbbbb, ccccccccccccc]",
        "x = {\"aaaaaaaaaa\": bbbbbbbbbbbbbb, \"cccccc\": ddd}",
        "def g(aaaaaaaaaaaa, bbbbbbbbbb, ccccc) -> int: pass",
        "from aaaaaaaa import (bbbbbbbbbbb, cccccccccc, dd)",
        "x = (aaaaaaaaaaaaa if bbbbbbbbbbbbbbb else ccccccc)",
        "x = [aaaaaaaaaaaaaa for bbbbbbb in ccccccc if ddd]",
        "f({\"aaaaaaaaaa\": bbbbbbbbbbbbbb, \"cccccc\": ddd})",
        "x = (aaa.bbbbbbbbb().cccccccccc().ddddddddd(eeee))",
        "x = (\"aaaaaaaaaaaaaaaaaaaa\" \"bbbbbbbbbbbbbbbbbbbbbbb\")",
    ]));
    insta::assert_snapshot!(laid, @r#"
    f(
        aaaaaaaaaaaa,
        bbbbbbbbbbbb,
        ccccccccccccc
    )
    x = [
        aaaaaaaaaaaa,
        bbbbbbbbbbbb,
        ccccccccccccc
    ]
    x = {
        "aaaaaaaaaa": bbbbbbbbbbbbbb,
        "cccccc": ddd
    }


    def g(
        aaaaaaaaaaaa,
        bbbbbbbbbb,
        ccccc
    ) -> int:
        pass


    from aaaaaaaa import (
        bbbbbbbbbbb,
        cccccccccc,
        dd
    )
    x = (
        aaaaaaaaaaaaa
        if bbbbbbbbbbbbbbb
        else ccccccc
    )
    x = [
        aaaaaaaaaaaaaa
        for bbbbbbb in ccccccc
        if ddd
    ]
    f({
        "aaaaaaaaaa": bbbbbbbbbbbbbb,
        "cccccc": ddd
    })
    x = (
        aaa
        .bbbbbbbbb()
        .cccccccccc()
        .ddddddddd(eeee)
    )
    x = (
        "aaaaaaaaaaaaaaaaaaaa"
        "bbbbbbbbbbbbbbbbbbbbbbb"
    )
    "#);
}

#[test]
fn flat_blocks_are_kept_if_so_agreed() {
    let settings = [
        ("flat_block", "", "keep"),
    ];
    let laid = lay_with("python", &settings, &lines(&[
        "if a : b",
        "class C:  pass",
        "for i in j: k ; l",
    ]));
    insta::assert_snapshot!(laid, @"
    if a: b


    class C: pass


    for i in j:
        k
        l
    ");
}

#[test]
fn inner_gaps_and_tight_operators() {
    let settings = [
        ("inner_gap", "parens", "true"),
        ("inner_gap", "brackets", "true"),
        ("inner_gap", "braces", "true"),
        ("operator_gap", "", "false"),
    ];
    let laid = lay_with("python", &settings, &lines(&[
        "f(a, b = 1)",
        "x = [a]",
        "y = {a: b}",
        "z = a[b] + c and -d",
        "def g(a: int = 1) -> int: pass",
    ]));
    insta::assert_snapshot!(laid, @"
    f( a, b=1 )
    x=[ a ]
    y={ a: b }
    z=a[ b ]+c and -d


    def g( a: int=1 ) -> int:
        pass
    ");
}

/// At a function's start one blank line is enough, however many a class may begin with.
#[test]
fn blank_lines_at_the_start_of_a_body() {
    let text = lines(&["class A:", "", "", "    x = 1", "", "", "def b():", "", "", "    pass"]);
    insta::assert_snapshot!(lay_with("python", &[("blank_lines", "at_edges", "2")], &text), @"
    class A:


        x = 1


    def b():

        pass
    ");
}

/// A point right behind a number would be its own.
#[test]
fn a_number_keeps_its_distance_from_a_point() {
    let text = "a = 1 .real + 2. .real + b .real\n";
    assert_eq!(lay("python", text), "a = 1 .real + 2. .real + b.real\n");
}

#[test]
fn a_string_with_a_fault_inside_is_one() {
    assert!(!faults("python", "a = f\"{b c}\"\n").is_empty());
    assert!(faults("python", "a = f\"{b + c}\"\n").is_empty());
}

#[test]
fn operators_beneath_the_element_that_they_go_on_stay_there() {
    let text = lines(&[
        "low = [",
        "    gauge",
        "    for gauge in gauges",
        "    if gauge.is_low",
        "    # at the quay",
        "    or gauge.is_dry",
        "]",
        "warn(",
        "    # the keepers",
        "    keepers",
        "    or wardens,",
        "    level=surge",
        "    or tide,",
        ")",
    ]);
    assert_eq!(lay("python", &text), text);
    assert_eq!(lay("python", "low = (ebb\nor flood)\n"), "low = (ebb\n    or flood)\n");
}

#[test]
fn what_does_not_fit_and_has_no_brackets_worth_opening_is_put_in_parentheses() {
    let narrow = [("max_line_length", "", "40")];
    insta::assert_snapshot!(lay_with("python", &narrow, &lines(&[
        "level = spring_tide + surge_at_night + neap",
        "if spring_tide and surge_at_night and neap:",
        "    return gauges.open(quay).read().latest_level(1)",
        "state = high_water if level > 3.5 else low_water_mark",
        "total += len(gauges_at_the_quay) + len(gauges)",
        "assert level == gauges[0].level_at_the_quay + 1",
        "for gauge in station.gauges_at_the_quay.sorted():",
        "    pass",
        "# Their own brackets, or none that would help.",
        "level = read(gauge_at_the_quay, metres, latest)",
        "level = low + read(gauge_at_the_quay, metres)",
        "level = [spring_tide, surge_at_night, neap, 4]",
        "level = gauges_at_the_quay_and_at_the_mole.first[0]",
        "level = read(",
        "    gauge_at_the_quay) + surge_at_the_quay_at_night",
    ])), @"
    level = (
        spring_tide + surge_at_night + neap
    )
    if (
        spring_tide
        and surge_at_night
        and neap
    ):
        return (
            gauges
            .open(quay)
            .read()
            .latest_level(1)
        )
    state = (
        high_water
        if level > 3.5
        else low_water_mark
    )
    total += (
        len(gauges_at_the_quay)
        + len(gauges)
    )
    assert (
        level
        == gauges[0].level_at_the_quay + 1
    )
    for gauge in (
        station.gauges_at_the_quay.sorted()
    ):
        pass
    # Their own brackets, or none that would help.
    level = read(
        gauge_at_the_quay,
        metres,
        latest
    )
    level = (
        low
        + read(gauge_at_the_quay, metres)
    )
    level = [
        spring_tide,
        surge_at_night,
        neap,
        4
    ]
    level = gauges_at_the_quay_and_at_the_mole.first[0]
    level = read(
        gauge_at_the_quay) + surge_at_the_quay_at_night
    ");
    let keep = [narrow[0], ("wrap_parens", "", "keep")];
    let text = "level = spring_tide + surge_at_night + neap\n";
    assert_eq!(lay_with("python", &keep, text), text);
    // Once there, they stay.
    let wide = "level = (ebb + flood)\n";
    assert_eq!(lay("python", wide), wide);
}

#[test]
fn bare_tuples_texts_and_what_is_given_or_raised_are_put_in_parentheses_too() {
    let narrow = [("max_line_length", "", "40")];
    insta::assert_snapshot!(lay_with("python", &narrow, &lines(&[
        "low, high = gauges.lowest(quay), gauges.highest",
        "for gauge in northern_gauge, southern_gauge:",
        "    yield northern_gauge.level, southern_gauge.level",
        "    yield northern_gauge.level + southern_gauge.level",
        "    return northern_gauge, southern_gauge, river",
        "    return *northern_gauges, *southern_gauges, river",
        "said = \"the tide at %s \" \"is higher than %d\" % (quay, 1)",
        "level = a if ebb_tide else b if flood_tide else c",
        "tide(first if ebb_tide else second if flood_tide else third)",
    ])), @r#"
    low, high = (
        gauges.lowest(quay),
        gauges.highest
    )
    for gauge in (
        northern_gauge,
        southern_gauge
    ):
        yield (
            northern_gauge.level,
            southern_gauge.level
        )
        yield (
            northern_gauge.level
            + southern_gauge.level
        )
        return (
            northern_gauge,
            southern_gauge,
            river
        )
        return *northern_gauges, *southern_gauges, river
    said = (
        "the tide at %s "
        "is higher than %d"
        % (quay, 1)
    )
    level = (
        a if ebb_tide
        else b if flood_tide
        else c
    )
    tide(
        first if ebb_tide
        else second if flood_tide
        else third
    )
    "#);
    // A long text is worth a line of its own.
    let text = "raised = Error(\"no gauge stands at the quay of the old town\")\n";
    let opened = "raised = Error(\n    \"no gauge stands at the quay of the old town\"\n)\n";
    assert_eq!(lay_with("python", &[("max_line_length", "", "60")], text), opened);
    // What is in brackets may be broken there.
    let inside = "level = (yield ebb + flood)\n";
    assert_eq!(lay("python", inside), inside);
}

#[test]
fn parameters_open_before_the_type_of_what_is_given_back() {
    let narrow = [("max_line_length", "", "60")];
    insta::assert_snapshot!(lay_with("python", &narrow, &lines(&[
        "def read(gauge, at) -> Dict[Tuple[str, Optional[int]], Level]:",
        "    pass",
        "def read() -> Dict[Tuple[str, Optional[int]], Level, Union[A, B]]:",
        "    pass",
    ])), @"
    def read(
        gauge,
        at
    ) -> Dict[Tuple[str, Optional[int]], Level]:
        pass


    def read() -> Dict[
        Tuple[str, Optional[int]],
        Level,
        Union[A, B]
    ]:
        pass
    ");
}

#[test]
fn what_is_left_out_stays_on_its_line_and_beside_its_like() {
    let text = lines(&[
        "class Gauge(Protocol):",
        "    def low(self) -> int: ...",
        "    def high(self) -> int: ...",
        "    @overload",
        "    def at(self, hour: int) -> int: ...",
        "    @overload",
        "    def at(self, hour: str) -> int: ...",
        "",
        "    def at(self, hour):",
        "        return hour",
    ]);
    assert_eq!(lay("python", &text), text);
    assert_eq!(lay("python", "def low():\n    ...\n"), "def low():\n    ...\n");
}

/// A value in several lines stays below its sign, where somebody put it; a bracket does not.
#[test]
fn a_value_in_lines_stays_below_its_sign() {
    let text = "\
tides = {
    \"title\":
        \"of the harbour, the quay and the buoys, \"
        \"as they were measured in the morning\",
    \"gauges\":
        [
            1,
        ],
}
";
    let wanted = text.replace(":\n        [\n            1,\n        ]", ": [\n        1,\n    ]");
    assert_eq!(lay("python", text), wanted);
}

/// A line that is laid out alone begins no file, and ends as those around it do.
#[test]
fn what_is_wrapped_is_laid_out_alone_as_in_its_file() {
    let python = crate::languages::by_name("python").unwrap();
    let style = crate::languages::testing::style("python", &[
        ("max_line_length", "", "40"),
        ("charset", "", "utf-8-bom"),
        ("end_of_line", "", "keep"),
    ]);
    let text = "def read():\r\n    level = spring_tide_today + surge_at_night\r\n    # and so on\r\n    return level or neap_tide_today or surge_at_noon\r\n";
    let document = crate::Document::new(text, python);
    let whole = crate::text::LineSet::whole();
    let (part, all) = (document.judge(&style, &whole), document.judge_all_around(&style, &whole));
    assert_eq!((&part.edits, &part.slips), (&all.edits, &all.slips));
    let mended = crate::text::apply(text, &part.edits);
    assert_eq!(mended.matches("(\r\n").count(), 2, "{mended}");
    assert_eq!(
        (mended.matches('\u{feff}').count(), mended.replace("\r\n", "").contains('\n')),
        (1, false)
    );
}

#[test]
fn a_text_alone_has_nothing_before_it() {
    let text = "\"\"\"What the gauges write.\n\nA line each.\n\"\"\"\n";
    let edited = text.replace("A line", "One line");
    assert_eq!(touched("python", text, &edited), edited);
}
