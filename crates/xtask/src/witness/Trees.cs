using System;
using System.Collections;
using System.Collections.Generic;
using System.IO;
using System.Linq;
using System.Reflection;
using System.Text;
using Mono.CSharp;

/// <summary>
/// Says how the compiler reads each text that comes in: a length in bytes on a line, and the text. The
/// answer has the same form; its first line is `read` or `not read`.
/// </summary>
public static class Trees
{
    public static void Main()
    {
        var texts = Console.OpenStandardInput();
        var trees = Console.OpenStandardOutput();
        string length;
        while ((length = Line(texts)) != null)
        {
            var text = new byte[int.Parse(length)];
            for (int at = 0; at < text.Length;)
            {
                at += texts.Read(text, at, text.Length - at);
            }
            var answer = Encoding.UTF8.GetBytes(Read(text));
            var header = Encoding.UTF8.GetBytes(answer.Length + "\n");
            trees.Write(header, 0, header.Length);
            trees.Write(answer, 0, answer.Length);
            trees.Flush();
        }
    }

    static string Line(Stream stream)
    {
        var line = new StringBuilder();
        for (int next = stream.ReadByte(); next != '\n'; next = stream.ReadByte())
        {
            if (next < 0)
            {
                return null;
            }
            line.Append((char)next);
        }
        return line.ToString();
    }

    static string Read(byte[] text)
    {
        var settings = new CompilerSettings { Unsafe = true };
        var problems = new Problems();
        var module = new ModuleContainer(new CompilerContext(settings, problems));
        var source = new SourceFile("A.cs", "A.cs", 1);
        Location.Reset();
        Location.Initialize(new List<SourceFile> { source });
        var file = new CompilationSourceFile(module, source);
        module.AddTypeContainer(file);
        try
        {
            var reader = new SeekableStreamReader(new MemoryStream(text), Encoding.UTF8, null);
            new CSharpParser(reader, file, new ParserSession()).parse();
        }
        catch (Exception problem)
        {
            return "not read\n" + problem.Message;
        }
        return problems.First != null
            ? "not read\n" + problems.First
            : "read\n" + new Dump().Of(file);
    }

    class Problems : ReportPrinter
    {
        public string First;

        public override void Print(AbstractMessage message, bool shows)
        {
            if (!message.IsWarning)
            {
                First = First ?? message.Text;
            }
        }
    }

    /// <summary>A tree by its fields, one node a line, without the places where things stand.</summary>
    class Dump
    {
        const BindingFlags Own = BindingFlags.Instance | BindingFlags.Public
            | BindingFlags.NonPublic
            | BindingFlags.DeclaredOnly;

        static readonly HashSet<string> Elsewhere = new HashSet<string>
        {
            "Location", "ModuleContainer", "CompilerContext", "Report", "SourceFile", "TypeSpec",
            "MemberCache",
        };

        /// <summary>What names a block from inside it.</summary>
        static readonly HashSet<string> Around = new HashSet<string>
        {
            "Parent", "Explicit", "ParametersBlock", "top_block", "original",
        };

        readonly StringBuilder text = new StringBuilder();
        readonly HashSet<object> seen = new HashSet<object>(new Same());

        class Same : IEqualityComparer<object>
        {
            bool IEqualityComparer<object>.Equals(object one, object other) => ReferenceEquals(
                one,
                other);
            int IEqualityComparer<object>.GetHashCode(object one) =>
                System.Runtime.CompilerServices.RuntimeHelpers.GetHashCode(one);
        }

        public string Of(object root)
        {
            Add(root, 0);
            return text.ToString();
        }

        /// <summary>The one statement in the blocks around it, which say nothing behind a header.</summary>
        static object Bare(object value)
        {
            var field = typeof(Block).GetField("statements", Own);
            while (value?.GetType() == typeof(ExplicitBlock))
            {
                var inside = (List<Statement>)field.GetValue(value);
                if (inside.Count != 1 || inside[0] is BlockVariable)
                {
                    break;
                }
                value = inside[0];
            }
            return value;
        }

        void Add(object value, int depth)
        {
            if (value == null || value is System.Delegate || value is Type)
            {
                return;
            }
            var type = value.GetType();
            text.Append(' ', depth);
            if (type.IsPrimitive || type.IsEnum || value is string || value is decimal)
            {
                // Which of several methods of a name is marked as one of them, depends on their order.
                var said = value.ToString().Replace(", MethodOverloadsExist", "");
                text.Append(said.Replace("\n", "\\n")).Append('\n');
                return;
            }
            if (!type.IsValueType && !seen.Add(value))
            {
                text.Append("seen\n");
                return;
            }
            text.Append(type.Name).Append('\n');
            if (value is IEnumerable all && type.Namespace != "Mono.CSharp")
            {
                // Members, and what is known by a name, by their names: their order may be agreed.
                Func<object, string> name = one => one is MemberCore member
                    ? member.GetSignatureForError()
                    : one.GetType().Name.StartsWith("KeyValuePair")
                    ? one.GetType().GetProperty("Key").GetValue(one) as string
                    : null;
                var inside = all.Cast<object>();
                var ordered = inside.All(one => one != null && name(one) != null)
                    ? inside.OrderBy(name, StringComparer.Ordinal)
                    : inside;
                foreach (var one in ordered)
                {
                    Add(one, depth + 1);
                }
                return;
            }
            for (var level = type; level != null && level != typeof(object); level = level.BaseType)
            {
                foreach (var field in level.GetFields(Own))
                {
                    if (!Elsewhere.Contains(field.FieldType.Name) && !Around.Contains(field.Name))
                    {
                        var inside = field.GetValue(value);
                        Add(
                            level == typeof(Block) || inside is ToplevelBlock
                                ? inside
                                : Bare(inside),
                            depth + 1);
                    }
                }
            }
        }
    }
}
