//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;
use crate::syntax::{Lexis, Regrouping};

kinds! {
    statements {
        Source, Body, ClassBody, MatchBody,
    }
    bodies {
        Array, Dictionary, EnumeratorList,
    }
    atoms {
        String, StringName, NodePath, GetNode,
    }
    comments {
        Comment, RegionStart, RegionEnd,
    }
    joins {
        LineContinuation,
    }
    words {
        ExtendsStatement, PatternGuard, PatternBinding, AwaitExpression, ReturnStatement,
        ExpressionStatement, PassStatement, BreakStatement, ContinueStatement,
    }
    tight {
        VariadicParameter, BaseCall, Annotation,
    }
    plain {
        Identifier, Name, Integer, Float, True, False, Null, StaticKeyword, RemoteKeyword,
        InferredType, Setter, Getter, BreakpointStatement, PatternOpenEnding, Type,
    }
    ruled {
        Annotations, SignalStatement, ClassNameStatement, ExportVariableStatement,
        OnreadyVariableStatement, VariableStatement, ConstStatement, Setget, SetBody, GetBody,
        IfStatement, ElifClause, ElseClause, ForStatement, WhileStatement, ClassDefinition,
        EnumDefinition, Enumerator, MatchStatement, PatternSection, FunctionDefinition,
        ConstructorDefinition, Lambda, Parameters, TypedParameter, DefaultParameter,
        TypedDefaultParameter, BinaryOperator, UnaryOperator, SubscriptArguments, Subscript,
        AttributeCall, AttributeSubscript, Attribute, ConditionalExpression,
        ParenthesizedExpression, Assignment, AugmentedAssignment, Pair, Arguments, Call,
    }
    marks {
        Colon = ":", Equals = "=", FuncWord = "func", VarWord = "var", ClassWord = "class",
        ClassNameWord = "class_name",
    }
    separators {
        Comma = ",", Semicolon = ";",
    }
}

/// The grammar takes what stands behind the second point of an operand for a part of all that is before it.
/// As "GDScript reference" has it, `in` is stronger than `and` and `as` weaker than all of them; the grammar's
/// place of `as` and `is` stays.
pub(super) static REGROUPING: Regrouping = Regrouping {
    operation: Kind::BinaryOperator as u16,
    behind: &[Kind::Attribute as u16, Kind::Subscript as u16],
    operators: &[
        &["or", "||"],
        &["and", "&&"],
        &["in", "not"],
        &["<", "<=", "==", "!=", ">=", ">"],
        &["|"],
        &["^"],
        &["&"],
        &["<<", ">>"],
        &["+", "-"],
        &["*", "/", "%"],
        &["**"],
        &["is"],
        &["as"],
    ],
};

/// Whether a kind holds the lines of a block.
pub(super) fn is_block(kind: u16) -> bool {
    matches!(Kind::of(kind), Kind::Body | Kind::ClassBody | Kind::MatchBody | Kind::Setget)
}

/// What begins a logical line behind the first one of its statement.
pub(super) fn goes_on(kind: u16) -> bool {
    matches!(
        Kind::of(kind),
        Kind::ElifClause
            | Kind::ElseClause
            | Kind::SetBody
            | Kind::GetBody
            | Kind::FuncWord
            | Kind::VarWord
            | Kind::ClassWord
            | Kind::ClassNameWord
            | Kind::StaticKeyword
            | Kind::RemoteKeyword
            | Kind::Annotation
    )
}

/// The words and marks that such a line begins with.
pub(super) const GOES_ON: &[&str] =
    &["elif", "else", "set", "get", "func", "var", "class", "static", "remote", "@"];

/// What the second reader has to know ("GDScript reference").
pub(super) const LEXIS: Lexis = Lexis {
    brackets: &[(b'(', b')'), (b'[', b']'), (b'{', b'}')],
    header: ":",
    join: Some(b'\\'),
    quotes: b"\"'",
    triple: true,
    escape: b'\\',
    prefixes: (b"r", 1),
    fields: b"",
    tab: 4,
};
