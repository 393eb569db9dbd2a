//! How Java is laid out.

use crate::languages::testing::{lay, lay_with, touched, touched_with};
use crate::text::{LineSet, apply};
use crate::{Document, languages, mend};

#[test]
fn types_and_members_are_laid_out() {
    insta::assert_snapshot!(lay("java", "\
package  saltmarsh ;
import  java.util. * ;
public class Quay<A,B extends C&D>extends Gauge<A>implements Alarm{
private final int level=2,ebb ;int[] a [] ;
Quay( int level,String ... names )throws Storm,Calm{super( level ) ;}
abstract<T>void read( ) ;
static{load();}
int high(){return 2;}
record Level(int at){Level{check();}}
@interface Note{int at( )default 1;}
}
"), @"
    package saltmarsh;
    import java.util.*;

    public class Quay<A, B extends C & D> extends Gauge<A> implements Alarm {
        private final int level = 2, ebb;
        int[] a[];

        Quay(int level, String... names) throws Storm, Calm {
            super(level);
        }

        abstract <T> void read();
        static {
            load();
        }

        int high() {
            return 2;
        }

        record Level(int at) {
            Level {
                check();
            }
        }

        @interface Note {
            int at() default 1;
        }
    }
    ");
}

#[test]
fn statements_are_laid_out() {
    insta::assert_snapshot!(lay("java", "\
class A{void f(){
if(a)b();else if(c){d();}else{e();}
for(int i=0,j=1;i<j;i++,j--){}for(var a:b)c(a);
while(a)b();do{c();}while(d);
try(var log=open();shut){a();}catch(Storm|Calm s){}finally{b();}
switch(a){case 1:case 2:b();break;default:c();}
int d=switch(a){case 1,2->3;case Neap n when n.b()>2->{yield 4;}default->throw e;};
synchronized(this){assert a>2:\"low\" ;}
for(int k=0;;k++)b();
outer:for(;;)break outer;
}}
"), @r#"
    class A {
        void f() {
            if (a) b();
            else if (c) {
                d();
            } else {
                e();
            }
            for (int i = 0, j = 1; i < j; i++, j--) {}
            for (var a : b) c(a);
            while (a) b();
            do {
                c();
            } while (d);
            try (var log = open(); shut) {
                a();
            } catch (Storm | Calm s) {} finally {
                b();
            }
            switch (a) {
                case 1:
                case 2:
                    b();
                    break;
                default:
                    c();
            }
            int d = switch (a) {
                case 1, 2 -> 3;
                case Neap n when n.b() > 2 -> {
                    yield 4;
                }
                default -> throw e;
            };
            synchronized (this) {
                assert a > 2 : "low";
            }
            for (int k = 0; ; k++) b();
            outer: for (;;) break outer;
        }
    }
    "#);
}

#[test]
fn expressions_are_laid_out() {
    insta::assert_snapshot!(lay("java", "\
class A{Object a=b.<C>d(-1,- -e,!f,~g,h++)[ 2 ].i,j=(int)k,l=m::new,n=new int[ 2 ][ ],o=p?q:r;
boolean s=t instanceof final U u&&v>>>2==w;Runnable x=()->y(),z=a->{b();};
Object c=new D(2){int e;};int[]f={1,2,},g=new int[]{};
@E(f=1,g={2,3})@H int i;char j='x';
}
"), @"
    class A {
        Object a = b.<C>d(-1, - -e, !f, ~g, h++)[2].i,
            j = (int) k,
            l = m::new,
            n = new int[2][],
            o = p ? q : r;
        boolean s = t instanceof final U u && v >>> 2 == w;
        Runnable x = () -> y(), z = a -> {
            b();
        };
        Object c = new D(2) {
            int e;
        };
        int[] f = {1, 2}, g = new int[]{};
        @E(f = 1, g = {2, 3}) @H int i;
        char j = 'x';
    }
    ");
}

#[test]
fn what_does_not_fit_is_broken_where_people_break_it() {
    let narrow = [("max_line_length", "", "50")];
    insta::assert_snapshot!(lay_with("java", &narrow, "\
class Quay extends Gauge implements Alarm, Siren, Horn {
    Level read(String station, int from, int to) throws Storm, Calm {
        boolean high = level > 2 && ebb < 3 || station.isEmpty();
        warn(\"the harbour\", station, level + 2, from - to);
        gauges.stream().filter(Gauge::isHigh).map(Gauge::level).toList();
        watch(\"quay\", gauge -> {
            warn(gauge);
        });
        String text = high ? \"high water at the quay\" : \"low water\";
        return new Level(station, from, to, ebb, flood, slack);
    }
}
"), @r#"
    class Quay
            extends Gauge
            implements Alarm, Siren, Horn {
        Level read(String station, int from, int to)
                throws Storm, Calm {
            boolean high = level > 2 && ebb < 3
                    || station.isEmpty();
            warn(
                    "the harbour",
                    station,
                    level + 2,
                    from - to);
            gauges.stream()
                    .filter(Gauge::isHigh)
                    .map(Gauge::level)
                    .toList();
            watch("quay", gauge -> {
                warn(gauge);
            });
            String text = high
                    ? "high water at the quay"
                    : "low water";
            return new Level(
                    station,
                    from,
                    to,
                    ebb,
                    flood,
                    slack);
        }
    }
    "#);
}

#[test]
fn what_somebody_lined_up_stays_so() {
    let text = "\
class A {
    void f(int a,
           int b) {
        warn(a,
             b);
        if (a > 2
            && b < 3) {
            warn(\"a\"
                 + \"b\");
        }
    }
}
";
    assert_eq!(lay("java", text), text);
}

#[test]
fn a_text_block_moves_with_its_line() {
    let text = "class A {\n  String a=\"\"\"\n     ebb\n\n       flood\\\n     \"\"\";\n}\n";
    let wanted =
        "class A {\n    String a = \"\"\"\n       ebb\n\n         flood\\\n       \"\"\";\n}\n";
    assert_eq!(lay("java", text), wanted);
    let tabs = [("indent_style", "", "tab")];
    let tabbed = "class A {\n\tString a = \"\"\"\n\t   ebb\n\n\t     flood\\\n\t   \"\"\";\n}\n";
    assert_eq!(lay_with("java", &tabs, text), tabbed);
    assert_eq!(lay("java", tabbed), wanted);
}

#[test]
fn a_text_block_stays_where_a_line_is_not_in_play_or_stands_further_left() {
    let before = "class A {\n  int b;\n  String a = \"\"\"\n     ebb\n     \"\"\";\n}\n";
    let now = before.replace("  String a =", "    String  a =");
    let wanted = before.replace("  String a =", "  String a =");
    assert_eq!(touched("java", before, &now), wanted);
    let left = "class A {\n        String a = \"\"\"\n    ebb\n  \"\"\";\n}\n";
    assert_eq!(lay("java", left), left.replace("        String", "    String"));
}

#[test]
fn a_text_block_in_a_statement_that_moved_moves() {
    let before = "class A {\n    void b() {\n        c(\"\"\"\n            ebb\n            \"\"\");\n    }\n}\n";
    let now = before
        .replace("        c(", "        if (d) {\n        c(")
        .replace("    }\n}", "        }\n    }\n}");
    let wanted = "class A {\n    void b() {\n        if (d) {\n            c(\"\"\"\n                ebb\n                \"\"\");\n        }\n    }\n}\n";
    assert_eq!(touched("java", before, &now), wanted);
}

/// Members by kind, and by who sees them.
const ORDER: [(&str, &str, &str); 1] = [
    (
        "member_order",
        "",
        r#"["constant", "field", "constructor", "public method", "method", "type"]"#,
    ),
];

#[test]
fn members_stand_in_the_order_that_is_agreed_with_their_comments() {
    insta::assert_snapshot!(lay_with("java", &ORDER, "\
class Quay {
    class Inner {
        void a() { }
        int b;
    }
    /** Hidden. */
    void low() {
    }

    // seen
    public void high() {
    } // by all

    static final int EBB = 2;
    int level = 1;
    Quay() {
    }
    int flow;
}
"), @"
    class Quay {
        static final int EBB = 2;
        int level = 1;
        int flow;

        Quay() {
        }

        // seen
        public void high() {
        } // by all

        /** Hidden. */
        void low() {
        }

        class Inner {
            int b;

            void a() {}
        }
    }
    ");
}

#[test]
fn initial_values_keep_the_order_that_they_may_depend_on() {
    let public = [("member_order", "", r#"["public", "private"]"#)];
    // What runs may ask for what was set before; what the compiler knows, everybody has.
    let text = "class A {\n    private int a = start();\n    public int b = 2;\n    public final int c = 3;\n}\n";
    let wanted = "class A {\n    public final int c = 3;\n    private int a = start();\n    public int b = 2;\n}\n";
    assert_eq!(lay_with("java", &public, text), wanted);
    // A name comes before what mentions it.
    let text = "class A {\n    private int a = 1;\n    public int b = a;\n    public static int c = 2;\n}\n";
    let wanted = "class A {\n    public static int c = 2;\n    private int a = 1;\n    public int b = a;\n}\n";
    assert_eq!(lay_with("java", &public, text), wanted);
    let text = "class A {\n    private static int a;\n\n    static {\n        a = 2;\n    }\n\n    public int b;\n}\n";
    let wanted = "class A {\n    public int b;\n\n    private static int a;\n\n    static {\n        a = 2;\n    }\n}\n";
    let order = [("member_order", "", r#"["initializer", "public field", "field"]"#)];
    assert_eq!(lay_with("java", &order, text), wanted);
}

#[test]
fn no_member_passes_a_comment_that_stands_by_itself() {
    let text = "class A {\n    void b() {\n    }\n\n    // ---- what it holds ----\n\n    class C {\n    }\n    int d;\n}\n";
    let wanted = "class A {\n    void b() {\n    }\n\n    // ---- what it holds ----\n\n    int d;\n\n    class C {\n    }\n}\n";
    assert_eq!(lay_with("java", &ORDER, text), wanted);
}

#[test]
fn a_new_member_moves_and_the_others_stay() {
    let kept = "class A {\n  class B{}\n\n  void c(){}\n  int d=1;\n\n  A(){}\n";
    let before = format!("{kept}}}\n");
    let now = format!("{kept}\n  // why\n  public int e=2;\n\n  void f(){{}}\n}}\n");
    let wanted = "class A {\n  class B{}\n\n  void c(){}\n  int d=1;\n\n  // why\n  public int e = 2;\n\n  A(){}\n\n  void f() {}\n}\n";
    assert_eq!(touched_with("java", &ORDER, &before, &now), wanted);
}

#[test]
fn a_touched_member_stands_beside_the_others() {
    let before = "class A {\n  int a=1;\n\n  int b;\n}\n";
    let now = before.replace("int b;", "void b( ){ ebb( ); }");
    let wanted = "class A {\n  int a=1;\n\n  void b() {\n    ebb();\n  }\n}\n";
    assert_eq!(touched("java", before, &now), wanted);
}

#[test]
fn modifiers_change_places_and_annotations_do_not() {
    let text = "class A {\n    final @B static public int c = 1;\n\n    @D synchronized protected void e() {\n    }\n}\n";
    let wanted = "class A {\n    public @B static final int c = 1;\n\n    @D\n    protected synchronized void e() {\n    }\n}\n";
    assert_eq!(lay_with("java", &[("modifier_order", "", "guide")], text), wanted);
}

#[test]
fn a_text_in_pieces_has_its_lines() {
    let narrow = [("max_line_length", "", "40")];
    let text = "class A {\n    String b = \"ebb\\n\" + \"flood\\n\" + \"slack\" + \"water\";\n}\n";
    let wanted = "class A {\n    String b = \"ebb\\n\"\n            + \"flood\\n\"\n            + \"slack\" + \"water\";\n}\n";
    assert_eq!(lay_with("java", &narrow, text), wanted);
}

#[test]
fn code_that_an_editor_commented_out_stays_at_the_margin() {
    let text = "class A {\n  void b() {\n//    c();\n//\n//  d();\n// why\n  e();\n  }\n// f\n}\n";
    let wanted = "class A {\n    void b() {\n//    c();\n//\n//  d();\n// why\n        e();\n    }\n    // f\n}\n";
    assert_eq!(lay("java", text), wanted);

    // So it does where nothing but a bracket stands behind it, or before.
    let text = "class A {\n//    int a;\n\n    void b() {\n//        c();\n    }\n//    void d() {\n//    }\n}\n\nclass E {\n//    int f;\n}\n//    g\n";
    assert_eq!(lay("java", text), text);
}

/// A comment with an end of its own behind the last argument keeps the bracket on its line.
#[test]
fn a_bracket_stands_behind_what_is_said_of_the_last_argument() {
    let behind = "class Tide {\n    int a = ebb(low,\n        high /* mean */);\n}\n";
    let below = behind.replace(" */);", " */\n    );");
    let own_line = [("close_bracket", "call", "own_line")];
    for text in [behind, &below] {
        assert_eq!(lay("java", text), behind);
        assert_eq!(lay("java", &lay_with("java", &own_line, text)), behind);
    }
    let line = behind.replace("/* mean */);", "// mean\n    );");
    assert_eq!(lay("java", &line), line);
    let own = behind.replace(" /* mean */);", "\n        /* mean */\n    );");
    assert_eq!(lay("java", &own), own);
}

#[test]
fn what_a_type_without_a_name_does_at_once_may_share_its_braces() {
    let text = "Map<Tide, Quay> a = new HashMap<>() {{\n    put(EBB, low);\n    put(FLOOD, high);\n}};\nf(new Quay() {{\n    open();\n}});\n";
    assert_eq!(lay("java", text), text);
    let hasty = text
        .replace("\n    open();\n", " open( ); ")
        .replace("\n    put(EBB", " put( EBB")
        .replace("high);\n}}", "high); } }");
    assert_eq!(lay("java", &hasty), text);
    let keep = [("flat_block", "", "keep")];
    let flat = "f(new Quay() {{ open(); }});\n";
    assert_eq!(lay_with("java", &keep, flat), flat);
    let (apart, opened) = (
        "f(new Quay() { { open(); } });\n",
        "f(new Quay() {\n    {\n        open();\n    }\n});\n",
    );
    assert_eq!(lay("java", apart), opened);
    let allman = [("open_brace", "", "next_line")];
    assert_eq!(
        lay("java", &lay_with("java", &allman, text)),
        lay("java", &text.replace("{{", "{ {"))
    );
    let field = "class A {\n    int b;\n\n    {\n        b = 2;\n    }\n}\n";
    assert_eq!(lay("java", field), field);
}

#[test]
fn the_type_of_what_a_method_returns_stands_where_it_is_agreed() {
    let text = "interface Quay {\n    default <T> int\n    level(T at) throws Storm {\n    }\n\n    \
                private static void flow() {\n    }\n\n    int\n    slack();\n}\n";
    let behind = text.replace("int\n    level", "int level").replace("int\n    slack", "int slack");
    let below = text.replace("void flow", "void\n    flow").replace("int\n    slack", "int slack");
    for (value, wanted) in [("keep", text), ("own_line", &below), ("with_name", &behind)] {
        assert_eq!(lay_with("java", &[("return_type_line", "", value)], text), wanted, "{value}");
        assert_eq!(lay_with("java", &[("return_type_line", "", value)], wanted), wanted, "{value}");
    }
}

/// A line ends before the name of what is declared rather than in what its type is made of, where both halves
/// fit then; a name that somebody put below its type stays there.
#[test]
fn a_name_goes_below_a_type_before_that_is_torn() {
    let style = [("max_line_length", "", "60")];
    let text = "\
class Quay {
    private Map<Harbour, List<Gauge<Level>>> gaugesOfHarbours;
    private Map<Harbour, List<Gauge<Level>>>
            gauges;

    Map<Harbour, List<Gauge<Level>>> gaugesOfThatHarbour() {}

    Map<Harbour, List<Gauge<Level>>> gauges(Harbour harbour) {}
}
";
    let wanted = "\
class Quay {
    private Map<Harbour, List<Gauge<Level>>>
            gaugesOfHarbours;
    private Map<Harbour, List<Gauge<Level>>>
            gauges;

    Map<Harbour, List<Gauge<Level>>>
            gaugesOfThatHarbour() {}

    Map<Harbour, List<Gauge<Level>>> gauges(
            Harbour harbour) {}
}
";
    assert_eq!(lay_with("java", &style, text), wanted);
    assert_eq!(lay_with("java", &style, wanted), wanted);
}

/// What a method throws stands where its parameters may: a step further in, or under the first.
#[test]
fn what_is_thrown_stands_under_the_first_of_it_or_in_steps() {
    let method = |rest: &str| {
        format!("class Quay {{\n    int level(int at)\n        throws Storm,\n{rest}Calm {{\n    }}\n}}\n")
    };
    let (under, step) = (method("               "), method("            "));
    let style = |align| [("wrap_indent", "chain", "1"), ("wrap_align", "declaration", align)];
    for text in [&under, &step] {
        assert_eq!(&lay_with("java", &style("any"), text), text);
        assert_eq!(lay_with("java", &style("bracket"), text), under);
        assert_eq!(lay_with("java", &style("step"), text), step);
    }
}

#[test]
fn a_case_with_more_than_its_block_has_its_brace_as_agreed() {
    let case = |block: &str| format!("class A {{\n    void f() {{\n        switch (a) {{\n            case 1:{block}\n                break;\n        }}\n    }}\n}}\n");
    let within = case("\n                {\n                    b();\n                }");
    let behind = case(" {\n                b();\n            }");
    for text in [&within, &behind] {
        assert_eq!(&lay("java", text), &behind);
        let next_line = lay_with("java", &[("open_brace", "control", "next_line")], text);
        assert_eq!(next_line, within.replace("(a) {", "(a)\n        {"));
    }
}

/// The clauses of a loop stand under the first or in steps, and have the bracket behind the last.
/// They stand as far in as somebody has them; where their brace comes up to them, further in than what it opens.
#[test]
fn clauses_whose_brace_comes_up_are_no_lines_of_the_body() {
    let text = "class Quay {\n    void rise()\n        throws Storm {\n        warn();\n    }\n}\n";
    assert_eq!(lay("java", text), text);
    let apart = text.replace("Storm {", "Storm\n    {");
    let wanted = text.replace("        throws", "            throws");
    assert_eq!(lay("java", &apart), wanted);
    assert_eq!(lay("java", &wanted), wanted);
}

#[test]
fn the_clauses_of_a_loop_are_broken_as_conditions_are() {
    let narrow = [("max_line_length", "", "40")];
    let of = |gap: &str| {
        let lines = ["for (int i = low_water;", "i < high_water_at_the_quay;", "i += 2) {"];
        format!(
            "class A {{\n    void f() {{\n        {}\n        }}\n    }}\n}}\n",
            lines.join(gap)
        )
    };
    let (under, step) = (of("\n             "), of("\n                "));
    assert_eq!(lay_with("java", &narrow, &of(" ")), step);
    assert_eq!(lay_with("java", &narrow, &step), step);
    assert_eq!(lay_with("java", &narrow, &under), under);
    let bracket = [narrow[0], ("wrap_align", "condition", "bracket")];
    assert_eq!(lay_with("java", &bracket, &step), under);
    let empty = "class A {\n    void f() {\n        for (; ebb(); ) {\n        }\n    }\n}\n";
    for text in [empty, &empty.replace("; )", ";)")] {
        assert_eq!(lay("java", text), text);
    }
}

/// A value that somebody put on the line below its sign stays there, unless the line would be a short one
/// as most lines go, however long they may be.
#[test]
fn a_value_below_its_sign_is_a_choice_where_the_line_would_be_long() {
    let wide = [("max_line_length", "", "160")];
    let of = |value: &str| format!(
        "class A {{\n    Level level =\n            new Level({value});\n}}\n"
    );
    let long = of("the_mole_of_the_harbour, the_quay_of_the_town, 2");
    assert_eq!(lay_with("java", &wide, &long), long);
    let short = lay_with("java", &wide, &of("the_mole, the_quay_of_the_town, 2"));
    assert!(short.contains("Level level = new Level("), "{short}");
}

/// Imports go that nothing mentions.
const DROP: [(&str, &str, &str); 1] = [("unused_imports", "", "drop")];

#[test]
fn imports_go_that_nothing_mentions() {
    let text = "\
// The harbour.
import tide.Buoy;

import tide.Gauge;
import tide.Mole; // for tests
import tide.Pier;
import tide.Quay;
import static tide.Level.EBB;
import static tide.Level.FLOW;
import tide.signal.*;
import tide.Storm; import tide.Tide;

/** See {@link Pier}. */
class Harbour {
    int Gauge = FLOW;
}
";
    let wanted = "\
// The harbour.
import tide.Gauge;
import tide.Mole; // for tests
import tide.Pier;
import static tide.Level.FLOW;
import tide.signal.*;

/** See {@link Pier}. */
class Harbour {
    int Gauge = FLOW;
}
";
    let wanted = wanted.replacen("import tide.Gauge;", "\nimport tide.Gauge;", 1);
    assert_eq!(lay_with("java", &DROP, text), wanted);
}

#[test]
fn of_the_imports_those_in_play_go_alone_and_none_where_nothing_is_behind_them() {
    let class = "\nclass Harbour {}\n";
    let before = format!("import tide.Buoy;\n{class}");
    let now = format!("import tide.Buoy;\nimport tide.Gauge;\n{class}");
    assert_eq!(touched_with("java", &DROP, &before, &now), before);
    let only = "import tide.Buoy;\nimport tide.Gauge;\n";
    assert_eq!(lay_with("java", &DROP, only), only);
    // Whether a name is mentioned cannot be said where not all is read.
    let broken = "import tide.Buoy;\n\nclass Harbour {\n    int level = ;\n}\n";
    let java = languages::by_name("java").unwrap();
    let mut style = java.style();
    style.set("unused_imports", "", "drop").unwrap();
    let mended = mend(broken, java, &style, &LineSet::whole()).unwrap();
    assert_eq!((mended.text.as_str(), mended.outcome.dropped()), (broken, 0));
}

#[test]
fn a_name_with_a_sign_in_it_and_one_in_a_text_are_mentioned() {
    let text = "import tide.Buoy$Lamp;\nimport tide.Gauge;\nimport tide.Mole;\n\nclass Harbour {\n    Buoy$Lamp lamp = at(\"the Gauge\");\n}\n";
    assert_eq!(lay_with("java", &DROP, text), text.replace("import tide.Mole;\n", ""));
}

#[test]
fn an_import_goes_by_itself_where_that_is_asked_for() {
    let java = languages::by_name("java").unwrap();
    let mut style = java.style();
    style.set("unused_imports", "", "drop").unwrap();
    let text =
        "import tide.Buoy;\nimport tide.Gauge;\nimport tide.Pier;\n\nclass Harbour{ Gauge g; }\n";
    let document = Document::new(text, java);
    let outcome = document.judge(&style, &LineSet::whole());
    assert_eq!(outcome.dropped(), 2);
    let edits = document.edits_at(&style, &LineSet::whole(), &outcome.slips[1]).unwrap();
    assert_eq!(apply(text, &edits), text.replacen("import tide.Pier;\n", "", 1));
}

#[test]
fn the_first_line_may_go_and_members_change_places_then() {
    let style = [DROP[0], ORDER[0]];
    let text = "import tide.Buoy;\n\nclass Harbour {\n    void ebb() {\n    }\n    int level;\n}\n";
    let wanted = "class Harbour {\n    int level;\n\n    void ebb() {\n    }\n}\n";
    assert_eq!(lay_with("java", &style, text), wanted);
}
