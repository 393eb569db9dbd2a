//! What the grammar misreads, and the language does not.

use crate::languages::testing::{faults, lay, lay_with};

/// A value that is made from one name and filled is none of a comparison.
#[test]
fn what_is_made_from_one_name_may_be_filled() {
    let text = "\
class Gauge
{
    Gauge Read()
    {
        var a = new Tide<Ebb>(level) { Quay = 1 };
        var b = new Harbour.Tide< Ebb<Flood[]> >( gauge.Level ){ Quay = 1 };
        if (a < b && c > (d))
        {
            return new Tide<Ebb, Flood>(level) { Quay = 1 };
        }
        return new Tide<Ebb>(level);
    }
}
";
    let wanted = text.replace(">( gauge.Level ){", ">(gauge.Level) {");
    assert_eq!(lay("csharp", text), wanted);
    let among_directives = format!("#if EBB\n{wanted}#endif\n");
    assert_eq!(lay("csharp", &among_directives), among_directives);
}

/// What a pointer points to may be more than a name, and something may be assigned to a call.
#[test]
fn places_in_memory_are_read() {
    let inside = |lines: &str| {
        let lines: String = lines.lines().map(|line| format!("        {line}\n")).collect();
        format!("unsafe class Gauge\n{{\n    void Read(byte* p)\n    {{\n{lines}    }}\n}}\n")
    };
    let laid = lay(
        "csharp",
        &inside("x=*( p+1 );\nx=*(int*)&f*2;\nF( *( p+1 ),* p++ );\nx=(byte)*(p+1);"),
    );
    let wanted = "x = *(p + 1);\nx = *(int*)&f * 2;\nF(*(p + 1), *p++);\nx = (byte)*(p + 1);";
    assert_eq!(laid, inside(wanted));
    let laid =
        lay("csharp", &inside("*(p+1)=3;\nF( x,y )=3;\nUnsafe.As<byte,int>( ref b )|=3;\nF()=3;"));
    let wanted = "*(p + 1) = 3;\nF(x, y) = 3;\nUnsafe.As<byte,int>(ref b) |= 3;\nF() = 3;";
    assert_eq!(laid, inside(wanted));
    let read = "*(int*)p = 4;\n*(float*)(p + 4) = 1;\n*((ushort*)p) = 4;\n*p++ = *q++;\n*--p = 3;\n\
                **(int**)p = **q;\nx = a * *(p + 1);\nreturn *(byte*)p.ToPointer();\n\
                Swap(ref *(long*)p, *(int*)-1);\nvar (a, b) = c;\nif (a) *(int*)p = 3;\nF(\"(\") = a * (b);\n\
                return (a + b) * (c + d);\nx = sizeof(int) * (n + 1);\nx = i++ * (b);\nx = a! * (b);\n\
                x = !*(bool*)p;\nx = (int)*(short*)p - a[1] * (b) + 2 * (c) + default(int) * (d);\nforeach (var x in (a) * (b)) { }";
    let faults = faults("csharp", &inside(read));
    assert!(faults.is_empty(), "{faults:?}");
}

/// No comparison is a value that another one is compared with: what looks like two of them is a type.
#[test]
fn a_type_with_parameters_is_no_comparison() {
    let lines = [
        "foreach (Tide<Ebb> ebb in ebbs) Read(ebb);",
        "await foreach (Quay.Tide<Ebb<Flood>> ebb in ebbs.Last) Read(ebb);",
        "if (x is Quay.Tide<Ebb> ebb) Read(ebb);",
        "if (x is (Tide<Ebb> ebb, int level)) Read(ebb);",
        "y = x is Tide<Ebb>[] && a < b;",
        "y = (Level)new Tide<Ebb>(a, b);",
        "y = ((Level)new Tide<Ebb>(a)).Read(b);",
        "y = (Level)Quay.Read<Ebb>(a);",
        "y = new Tide<(bool IsEbb, Level Level)>((a < b, c));",
        "y = (a) < b;",
        "y = Read(a) < b;",
        "if (a) y = b < c;",
    ];
    let body: String = lines.iter().map(|line| format!("        {line}\n")).collect();
    let text = format!("class Gauge\n{{\n    void Read()\n    {{\n{body}    }}\n}}\n");
    assert_eq!(lay("csharp", &text), text);
    assert!(faults("csharp", &text).is_empty());
}

/// Doubled quotes before a text's end are its own, as they are everywhere else in it.
#[test]
fn quotes_before_a_texts_end_are_read() {
    let lines = [
        r#"x = $@"""{ebb}""";"#,
        r#"x = @$"{Read("}", $"\"{a}\"")}"" {b}""";"#,
        r#"x = $@"{ebb}"" {flood}" + "{ebb}" + @"""";"#,
        r#"x = $"{ebb}";"#,
    ];
    let body: String = lines.iter().map(|line| format!("        {line}\n")).collect();
    let text = format!("class Gauge\n{{\n    void Read()\n    {{\n{body}    }}\n}}\n");
    assert_eq!(lay("csharp", &text.replace(" = ", "=")), text);
    assert!(faults("csharp", &text).is_empty());
    assert!(!faults("csharp", "class Gauge { string ebb = $@\"{ebb}\"\"").is_empty());
}

/// The signs between questions are none of what a value is asked to be.
#[test]
fn questions_stand_under_the_first_one() {
    let text = "\
class Gauge
{
    void Read()
    {
        if (mark is Ebb ||
            mark is Flood ||
            mark is Slack && isLow)
        {
            Warn();
        }
        if (isLow ||
            mark is Ebb ||
            mark is Flood)
        {
            Warn();
        }
    }
}
";
    let style = [("operator_place", "", "trails"), ("wrap_align", "condition", "bracket")];
    assert_eq!(lay_with("csharp", &style, text), text);
    let leads = text.replace(" ||\n            mark", "\n            || mark");
    assert_eq!(lay_with("csharp", &style, &leads), text);
}
