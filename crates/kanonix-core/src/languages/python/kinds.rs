//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;
use crate::syntax::Lexis;

kinds! {
    statements {
        Module, Block,
    }
    bodies {
        List, Dictionary,
    }
    atoms {
        String,
    }
    comments {
        Comment,
    }
    joins {
        LineContinuation,
    }
    words {
        AliasedImport, ReturnStatement, DeleteStatement, RaiseStatement, Chevron, NotOperator,
        Yield, IfClause, Await, IsNot = "is not", NotIn = "not in",
    }
    tight {
        RelativeImport, ImportPrefix, DottedName, Decorator, ListSplat, ListSplatPattern,
        DictionarySplat, DictionarySplatPattern, GenericType, MemberType, SplatType, SplatPattern,
        UnaryOperator,
    }
    commas {
        ImportStatement, AssertStatement, ExpressionStatement, GlobalStatement, NonlocalStatement,
        PrintStatement, ExecStatement, LambdaParameters, AsPattern, PatternList,
        ForInClause,
    }
    pairs {
        TypedParameter, ConstrainedType, Pair,
    }
    plain {
        WithItem, Type, AsPatternTarget, Identifier, Integer, Float,
    }
    ruled {
        ImportFromStatement, FutureImportStatement, TypeAliasStatement, IfStatement, ElifClause,
        ElseClause, MatchStatement, CaseClause, ForStatement, WhileStatement, TryStatement,
        ExceptClause, FinallyClause, WithStatement, WithClause, FunctionDefinition, ClassDefinition,
        DecoratedDefinition, Parameters, DefaultParameter, TypedDefaultParameter,
        ParenthesizedListSplat, ArgumentList, KeywordArgument, TypeParameter, UnionType,
        CasePattern, UnionPattern, DictPattern, KeywordPattern, ClassPattern, ComplexPattern,
        TuplePattern, ListPattern, NamedExpression, BooleanOperator, BinaryOperator,
        ComparisonOperator, Lambda, Assignment, AugmentedAssignment, Attribute, Subscript, Slice,
        Call, Set, Tuple, ListComprehension, DictionaryComprehension, SetComprehension,
        GeneratorExpression, ParenthesizedExpression, ConditionalExpression, ConcatenatedString,
        ExpressionList,
    }
    marks {
        Colon = ":", OpenParen = "(", Star = "*",
    }
    separators {
        Comma = ",", Semicolon = ";",
    }
}

/// Whether a kind holds the lines of a block.
pub(super) fn is_block(kind: u16) -> bool {
    Kind::of(kind) == Kind::Block
}

/// What begins a logical line behind the first one of its statement.
pub(super) fn goes_on(kind: u16) -> bool {
    matches!(
        Kind::of(kind),
        Kind::ElifClause
            | Kind::ElseClause
            | Kind::ExceptClause
            | Kind::FinallyClause
            | Kind::CaseClause
            | Kind::Decorator
            | Kind::FunctionDefinition
            | Kind::ClassDefinition
    )
}

/// The words and marks that such a line begins with.
pub(super) const GOES_ON: &[&str] =
    &["elif", "else", "except", "finally", "case", "@", "def", "class", "async"];

/// What the second reader has to know (*The Python Language Reference*, "Lexical analysis").
pub(super) const LEXIS: Lexis = Lexis {
    brackets: &[(b'(', b')'), (b'[', b']'), (b'{', b'}')],
    header: ":",
    join: Some(b'\\'),
    quotes: b"\"'",
    triple: true,
    escape: b'\\',
    prefixes: (b"rRbBuUfFtT", 2),
    fields: b"fFtT",
    tab: 8,
};

/// The grammar reads a stretch between back quotes as a string; it was an expression in Python 2,
/// and is nothing in Python 3.
pub(super) fn foreign(kind: u16, text: &str) -> bool {
    Kind::of(kind) == Kind::String && text.ends_with('`')
}
