//! How C# is laid out.

use crate::languages::testing::{lay, lay_with, touched};

mod directives;
mod misread;

#[test]
fn types_and_members_are_laid_out() {
    insta::assert_snapshot!(lay("csharp", "\
using  System ;using static System . Math;
namespace  Saltmarsh.Tides{
[Fast,Slow ( 2 )]public sealed class Quay<A,in B>:Gauge<A>,IAlarm where A:class ,new( ) where B:struct{
const int Level=2,Ebb=3 ;
Quay( int level,params string [ ] names ):base( level ){Load( ) ;}
public int High{get;private set;}=2;
int Low=>2 ;
int Top{get{if(a)b();return 1;}set=>top=value;}
public int this[ int at ]{get=>at;}
event Action Rising{add{a();}remove{b();}}
public static Quay<A,B> operator+(Quay<A,B> a,int b)=>a;
public static explicit operator int ( Quay<A,B> a ){return 1;}
~Quay( ){}
record struct Level(int At):ILevel;
enum Kind:byte{Ebb,Flood=2}
delegate void Warn<T>( T a )where T:class;
unsafe fixed byte room[ 2 ];
}}
"), @"
    using System;
    using static System.Math;

    namespace Saltmarsh.Tides
    {
        [Fast, Slow(2)]
        public sealed class Quay<A, in B> : Gauge<A>, IAlarm where A : class, new() where B : struct
        {
            const int Level = 2, Ebb = 3;
            Quay(int level, params string[] names) : base(level) { Load(); }
            public int High { get; private set; } = 2;
            int Low => 2;
            int Top { get { if (a) b(); return 1; } set => top = value; }
            public int this[int at] { get => at; }
            event Action Rising { add { a(); } remove { b(); } }
            public static Quay<A, B> operator+(Quay<A, B> a, int b) => a;
            public static explicit operator int(Quay<A, B> a) { return 1; }
            ~Quay() {}
            record struct Level(int At) : ILevel;
            enum Kind : byte { Ebb, Flood = 2 }
            delegate void Warn<T>(T a) where T : class;
            unsafe fixed byte room[2];
        }
    }
    ");
}

#[test]
fn statements_are_laid_out() {
    insta::assert_snapshot!(lay("csharp", "\
class A{void F(){
if(a)b();else if(c){d();}else{e();}
for(int i=0,j=1;i<j;i++,j--){}foreach(var(a,b)in c)d(a);await foreach(var a in b)c(a);
while(a)b();do{c();}while(d);
try{a();}catch(Storm s)when(s.High){}catch{throw;}finally{b();}
switch(a){case 1:case>2 when b:c();break;case A{B:1}:{d();break;}default:goto case 1;}
using(var log=Open())using(shut)a();using var b=c;
lock(a){b();}checked{a++;}unsafe{*p=1;}fixed(byte*p=a)b();
again:goto again;
int Twice(int a)=>a*2;static void Shut(){;}
yield return 1;yield break;
}}
"), @"
    class A
    {
        void F()
        {
            if (a) b();
            else if (c)
            {
                d();
            }
            else
            {
                e();
            }
            for (int i = 0, j = 1; i < j; i++, j--) {}
            foreach (var (a, b) in c) d(a);
            await foreach (var a in b) c(a);
            while (a) b();
            do
            {
                c();
            } while (d);
            try
            {
                a();
            }
            catch (Storm s) when (s.High) {}
            catch
            {
                throw;
            }
            finally
            {
                b();
            }
            switch (a)
            {
                case 1:
                case > 2 when b:
                    c();
                    break;
                case A { B: 1 }:
                {
                    d();
                    break;
                }
                default:
                    goto case 1;
            }
            using (var log = Open()) using (shut) a();
            using var b = c;
            lock (a)
            {
                b();
            }
            checked
            {
                a++;
            }
            unsafe
            {
                *p = 1;
            }
            fixed (byte* p = a) b();
        again: goto again;
            int Twice(int a) => a * 2;
            static void Shut() { ; }
            yield return 1;
            yield break;
        }
    }
    ");
}

#[test]
fn expressions_are_laid_out() {
    insta::assert_snapshot!(lay("csharp", "\
var a=-b+( +c-- )*!d?e:~f??g!;
var h=new Gauge{Level=2,[1]=3};var i=new int [ 2,3 ];var j=new[ ]{1,2};var k=new( 2 ){A=1};
var l=(int) m+(List<int>)n;var o=p as Q;var r=s is not null and>2;
Func<int,int>t=async u=>await V(u);var w=(int x,ref int y)=>{Z();};a+=delegate( int b ){c();};
var d=e?.F( 1 )?[2].G;var h2=i2[ ^1 ];var j2=k2[1..^2];var l2=typeof( int )==typeof( List< > );
var m2=n2 switch{1=>2,>2 and<3=>4,{A:1}b when c=>5,(1,_)=>6,[1,..]=>7,_=>throw new E()};
var o2=p2 with{A=1};var q2=( 1,B:2 );(int r2,var s2)=t2;
var u2=from v in w2 where v.A group v by v.B into x2 select x2.Key;
F( out var y2,ref z2,in a3,name:b3 );G( a*b );H( out int*c );
int[,][]d3=null;int?e3=default;delegate*<int,void>f3=&F;int g3=p->x;var h3=$\"{ i3 ,3:N0 }\";
"), @r#"
    var a = -b + (+c--) * !d ? e : ~f ?? g!;
    var h = new Gauge { Level = 2, [1] = 3 };
    var i = new int[2, 3];
    var j = new[] { 1, 2 };
    var k = new(2) { A = 1 };
    var l = (int)m + (List<int>)n;
    var o = p as Q;
    var r = s is not null and > 2;
    Func<int, int> t = async u => await V(u);
    var w = (int x, ref int y) => { Z(); };
    a += delegate(int b) { c(); };
    var d = e?.F(1)?[2].G;
    var h2 = i2[^1];
    var j2 = k2[1..^2];
    var l2 = typeof(int) == typeof(List<>);
    var m2 = n2 switch { 1 => 2, > 2 and < 3 => 4, { A: 1 } b when c => 5, (1, _) => 6, [1, ..] => 7, _ => throw new E() };
    var o2 = p2 with { A = 1 };
    var q2 = (1, B: 2);
    (int r2, var s2) = t2;
    var u2 = from v in w2 where v.A group v by v.B into x2 select x2.Key;
    F(out var y2, ref z2, in a3, name: b3);
    G(a * b);
    H(out int* c);
    int[,][] d3 = null;
    int? e3 = default;
    delegate*<int, void> f3 = &F;
    int g3 = p->x;
    var h3 = $"{ i3 ,3:N0 }";
    "#);
}

#[test]
fn what_does_not_fit_is_broken_as_its_writers_do() {
    let narrow = [("max_line_length", "", "50")];
    insta::assert_snapshot!(lay_with("csharp", &narrow, "\
class Quay : Gauge<Level>, IAlarm where T : IComparable<T>
{
    Task<List<int>> Read<T>(IEnumerable<T> first, Func<T, int> by) where T : class { return null; }
    void F()
    {
        if (level > 2000000 && gauge.High > 3000000 || calm) Warn();
        var all = gauges.Where(one => one.High).Select(one => one.Level).ToList();
        var gauge = new Gauge { Level = 2, Name = \"the quay\", Unit = \"m\" };
        Warn(\"the gauge at the quay\", level => { Print(level); });
        string text = level switch { 0 => \"none at all\", > 20 => \"a lot of it\", _ => \"some\" };
        int[] levels = { 1000000, 2000000, 3000000, 4000000, 5000000 };
        var high = from one in gauges where one.Level > 2000 select one.Name;
        string sum = \"the gauge at the quay \" + level + \" is high\";
        return level > 20000 ? Warn(\"the gauge at the quay\") : Calm();
    }
    string Name => gauges.First(one => one.High).Station.Name;
}
"), @r#"
    class Quay
        : Gauge<Level>, IAlarm
        where T : IComparable<T>
    {
        Task<List<int>> Read<T>(
            IEnumerable<T> first,
            Func<T, int> by)
            where T : class
        {
            return null;
        }

        void F()
        {
            if (level > 2000000
                    && gauge.High > 3000000
                    || calm)
                Warn();
            var all = gauges.Where(one => one.High)
                .Select(one => one.Level)
                .ToList();
            var gauge = new Gauge
            {
                Level = 2,
                Name = "the quay",
                Unit = "m"
            };
            Warn("the gauge at the quay", level =>
            {
                Print(level);
            });
            string text = level switch
            {
                0 => "none at all",
                > 20 => "a lot of it",
                _ => "some"
            };
            int[] levels =
            {
                1000000, 2000000, 3000000, 4000000,
                5000000
            };
            var high = from one in gauges
                       where one.Level > 2000
                       select one.Name;
            string sum = "the gauge at the quay "
                + level + " is high";
            return level > 20000
                ? Warn("the gauge at the quay")
                : Calm();
        }

        string Name => gauges.First(
            one => one.High).Station.Name;
    }
    "#);
}

#[test]
fn a_namespace_may_hold_lines_that_are_no_further_in() {
    let flat = "namespace A\n{\nclass B\n{\n    int c;\n}\n}\n";
    let deep = "namespace A\n{\n    class B\n    {\n        int c;\n    }\n}\n";
    for (value, from, to) in [
        ("keep", flat, flat),
        ("keep", deep, deep),
        ("true", flat, deep),
        ("false", deep, flat),
    ] {
        assert_eq!(lay_with("csharp", &[("namespace_indent", "", value)], from), to, "{value}");
    }
}

#[test]
fn braces_around_values_are_agreed_on_by_themselves() {
    let style = [
        ("open_brace", "collection", "same_line"),
        ("open_brace", "accessor", "same_line"),
    ];
    insta::assert_snapshot!(lay_with("csharp", &style, "\
class Quay
{
    int Ebb
    {
        get;
        set;
    }
    int Flood { get { return 2; } }
    Gauge gauge = new Gauge
    {
        Level = 2,
    };
    int Name() => kind switch
    {
        1 => 2,
        _ => 3,
    };
}
"), @"
    class Quay
    {
        int Ebb {
            get;
            set;
        }

        int Flood { get { return 2; } }
        Gauge gauge = new Gauge {
            Level = 2,
        };
        int Name() => kind switch {
            1 => 2,
            _ => 3,
        };
    }
    ");
}

#[test]
fn a_list_that_is_not_touched_as_a_whole_keeps_its_brace() {
    let text = "var gauge = new Gauge {\n    Level=2,\n    Unit=3,\n};\nvar other=2;\n";
    let edited = text.replace("Unit=3", "Unit=4");
    assert_eq!(touched("csharp", text, &edited), text.replace("Unit=3", "Unit = 4"));
    let whole = "var gauge = new Gauge\n{\n    Level = 2,\n    Unit = 3,\n};\nvar other = 2;\n";
    assert_eq!(lay("csharp", text), whole);
}

#[test]
fn modifiers_stand_in_the_order_of_the_guide_where_that_is_agreed() {
    let text =
        "partial class Quay\n{\n    async static public Task F() { }\n    [Old] readonly static int a;\n    \
                unsafe private fixed int b[2];\n    static\n    public int c;\n    static /* d */ public int e;\n}\n";
    let wanted =
        "partial class Quay\n{\n    public static async Task F() { }\n    [Old] static readonly int a;\n    \
                  private unsafe fixed int b[2];\n    static\n    public int c;\n    public /* d */ static int e;\n}\n";
    let agreed = [("modifier_order", "", "guide"), ("word_gap", "", "keep")];
    assert_eq!(lay_with("csharp", &agreed, text), wanted);
    assert_eq!(lay_with("csharp", &[("word_gap", "", "keep")], text), text);
}

#[test]
fn an_attribute_stands_where_it_is_agreed() {
    let text = "[A] class Quay\n{\n    [B]\n    int c;\n    [D] void E() { }\n}\n";
    for (value, wanted) in [
        ("keep", text),
        ("own_line", "[A]\nclass Quay\n{\n    [B]\n    int c;\n    [D]\n    void E() { }\n}\n"),
        ("same_line", "[A] class Quay\n{\n    [B] int c;\n    [D] void E() { }\n}\n"),
    ] {
        assert_eq!(lay_with("csharp", &[("annotation_line", "", value)], text), wanted, "{value}");
    }
}

#[test]
fn the_type_of_what_a_function_returns_stands_where_it_is_agreed() {
    let text = "class Quay\n{\n    [A]\n    public Gauge\n    Ebb(int at)\n    {\n        int\n        Flow<T>(T at) => 2;\n    }\n\n    \
                int ITide.Level()\n    {\n    }\n\n    abstract void\n    Slack();\n\n    Quay()\n    {\n    }\n}\n";
    let behind = text
        .replace("Gauge\n    Ebb", "Gauge Ebb")
        .replace("int\n        Flow", "int Flow")
        .replace("void\n    Slack", "void Slack");
    let below = text
        .replace("int ITide", "int\n    ITide")
        .replace("void\n    Slack", "void Slack");
    for (value, wanted) in [("keep", text), ("own_line", &below), ("with_name", &behind)] {
        assert_eq!(lay_with("csharp", &[("return_type_line", "", value)], text), wanted, "{value}");
        assert_eq!(
            lay_with("csharp", &[("return_type_line", "", value)], wanted),
            wanted,
            "{value}"
        );
    }
}

#[test]
fn a_clause_has_a_line_of_its_own_where_that_is_agreed() {
    let text = "class Quay<T> : Gauge where T : new()\n{\n    Quay() : base() { }\n}\n";
    let wanted = "class Quay<T> : Gauge\n    where T : new()\n{\n    Quay() : base() { }\n}\n";
    assert_eq!(lay_with("csharp", &[("clause_line", "where", "own_line")], text), wanted);
    let wanted =
        "class Quay<T>\n    : Gauge where T : new()\n{\n    Quay()\n        : base() { }\n}\n";
    assert_eq!(lay_with("csharp", &[("clause_line", "base", "own_line")], text), wanted);
    assert_eq!(lay("csharp", text), text);
}

#[test]
fn plain_numbers_fill_their_lines() {
    let narrow = [("max_line_length", "", "40")];
    let laid = lay_with("csharp", &narrow, "int[] a = { 1000, -2000, 3000, 4000, 5000, 6000 };\n");
    assert_eq!(laid, "int[] a =\n{\n    1000, -2000, 3000, 4000, 5000, 6000\n};\n");
    let single = "int[] a =\n{\n    1,\n    2,\n    3,\n    4\n};\n";
    assert_eq!(lay("csharp", single), single);
}

#[test]
fn a_raw_text_moves_with_its_line_and_a_verbatim_one_never_does() {
    let text = "class A\n{\n  string b=\"\"\"\n     ebb\n       flood\n     \"\"\";\n  string c=@\"\n     ebb\";\n}\n";
    let wanted = "class A\n{\n    string b = \"\"\"\n       ebb\n         flood\n       \"\"\";\n    string c = @\"\n     ebb\";\n}\n";
    assert_eq!(lay("csharp", text), wanted);
}

/// Members by kind, those that everybody sees first.
const ORDER: [(&str, &str, &str); 1] =
    [("member_order", "", r#"["field", "property", "public method", "method"]"#)];

#[test]
fn members_stand_in_the_order_that_is_agreed() {
    let text = "\
class Quay
{
    void Low() { }

    public void High() { }

    public int Level { get; set; } = 2;

    /// <summary>How high.</summary>
    [Unit]
    int ebb = 1;
}
";
    let wanted = "\
class Quay
{
    /// <summary>How high.</summary>
    [Unit]
    int ebb = 1;

    public int Level { get; set; } = 2;

    public void High() { }

    void Low() { }
}
";
    assert_eq!(lay_with("csharp", &ORDER, text), wanted);
}

#[test]
fn members_lie_where_others_may_count_on_it() {
    let public = [("member_order", "", r#"["public", "private"]"#)];
    for kept in [
        "struct A\n{\n    int b;\n    public int c;\n    public int D { get; set; }\n}\n",
        "[Layout]\nclass A\n{\n    int b;\n    public int c = 2;\n}\n",
        "[Foreign]\ninterface IA\n{\n    private void B();\n    void C();\n}\n",
        "class A\n{\n    int b;\n    #region C\n    public int c;\n    #endregion\n}\n",
    ] {
        assert_eq!(lay_with("csharp", &public, kept), kept);
    }
    let moved = "class A\n{\n    public int c;\n    int b;\n}\n";
    let text = "class A\n{\n    int b;\n    public int c;\n}\n";
    assert_eq!(lay_with("csharp", &public, text), moved);
}

#[test]
fn what_stands_behind_an_arrow_goes_to_the_next_line_before_it_is_torn() {
    let narrow = [("max_line_length", "", "50")];
    let text = "[\n    Serializable]\nclass A\n{\n    int B(int c) => Look(c, springTide, neapTide, 2);\n}\n";
    let wanted = "[Serializable]\nclass A\n{\n    int B(int c) =>\n        Look(c, springTide, neapTide, 2);\n}\n";
    assert_eq!(lay_with("csharp", &narrow, text), wanted);
}

/// The compiler reads `{ "mole", 2, }` as a row of an array, and nowhere else.
#[test]
fn an_entry_of_a_collection_gets_no_last_comma() {
    let style = [("last_comma", "", "open_list"), ("max_line_length", "", "30")];
    insta::assert_snapshot!(lay_with("csharp", &style, "\
class Mole
{
    Table levels = new() { { Name(\"mole\"), Highest(levels) }, { \"quay\", 2 } };
    int[,] rows = { { Lowest(levels), Highest(levels) }, { 1, 2 } };
    Mole quay = new Mole { Levels = { { Name(\"mole\"), Highest(levels) } } };
}
"), @r#"
    class Mole
    {
        Table levels = new()
        {
            {
                Name("mole"),
                Highest(levels)
            },
            {
                "quay",
                2
            },
        };
        int[,] rows =
        {
            {
                Lowest(levels),
                Highest(levels),
            },
            {
                1,
                2,
            },
        };
        Mole quay = new Mole
        {
            Levels =
            {
                {
                    Name("mole"),
                    Highest(
                        levels)
                },
            },
        };
    }
    "#);
}

#[test]
fn what_stood_on_one_line_is_opened_as_a_whole() {
    let text = "\
class A
{
    void F()
    {
        switch (x) { case 1: { a(); } break; default: { b(); } break; }
    }

    int P { get => aaaa; set => bbbb; }
}
";
    insta::assert_snapshot!(lay_with("csharp", &[("max_line_length", "", "36")], text), @"
    class A
    {
        void F()
        {
            switch (x)
            {
                case 1:
                    {
                        a();
                    }
                    break;
                default:
                    {
                        b();
                    }
                    break;
            }
        }

        int P
        {
            get => aaaa;
            set => bbbb;
        }
    }
    ");
}

/// A case's block with more behind it stands as the canon has its brace, wherever it stood.
#[test]
fn a_case_with_more_than_its_block_has_its_brace_as_agreed() {
    let case = |block: &str| format!("switch (x)\n{{\n    case 1:{block}\n        break;\n}}\n");
    let within = case("\n        {\n            a();\n        }");
    let beside = case("\n    {\n        a();\n    }");
    let behind = case(" {\n        a();\n    }");
    for text in [&within, &beside, &behind] {
        assert_eq!(lay("csharp", text), within, "{text}");
        let same_line = lay_with("csharp", &[("open_brace", "control", "same_line")], text);
        assert_eq!(same_line, behind.replace("(x)\n{", "(x) {"), "{text}");
    }
}

/// With `keep`, the first case of each `switch` says how far in all of them are.
#[test]
fn cases_are_as_far_in_as_they_stand() {
    let text = "\
switch (x)
{
    case 1:
        F();
        break;
}
switch (y)
{
case 1:
    G();
    break;
case 2:
    break;
}
";
    let keep = [("case_indent", "", "keep")];
    assert_eq!(lay_with("csharp", &keep, text), text);
    let mixed = text.replace("\ncase 2:\n    break;", "\n   case 2:\n   break;");
    assert_eq!(lay_with("csharp", &keep, &mixed), text);
    let one_line = "switch (x) { case 1: F(); break; }";
    let opened = text.split_once("switch (y)").unwrap().0;
    assert_eq!(lay_with("csharp", &keep, one_line).trim_end(), opened.trim_end());
}

/// A list whose elements stand beside its brace stays below what it belongs to, or it would stand far to the right.
#[test]
fn a_list_beside_its_brace_stays_on_its_line() {
    let text = "\
int[] levels =
    { Gauge.One,
      Gauge.Two };
int[] tides =
{ 1,
  2 };
Use(new Dictionary<string, int>()
    { { \"ebb\", 1 },
      { \"flood\", 2 } });
";
    let style = [("open_brace", "collection", "same_line"), ("wrap_align", "collection", "keep")];
    assert_eq!(lay_with("csharp", &style, text), text);
    let opened = "int[] levels =\n{\n    1,\n    2\n};\n";
    assert_eq!(lay_with("csharp", &style, opened), opened.replace("=\n{", "= {"));
}

/// Empty braces keep their blank, or have none: people write either.
#[test]
fn empty_braces_stay_as_they_stand() {
    let text = "\
class A
{
    void F()
    {
        endLoop: { }
        Action a = () => { };
        if (y is { } z) { }
        var p = new A { };
        var y = x switch { };
        var w = x with { };
        var v = new { };
        switch (x)
        { }
    }

    enum E { }

    class B { }

    A() { }
}
";
    for flat in ["keep", "open"] {
        let style = [("flat_block", "control", flat), ("flat_block", "type", "keep")];
        assert_eq!(lay_with("csharp", &style, text), text, "{flat}");
        let tight = text.replace("{ }", "{}");
        assert_eq!(lay_with("csharp", &style, &tight), tight, "{flat}");
    }
}
