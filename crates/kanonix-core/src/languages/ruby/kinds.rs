//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;

kinds! {
    statements {
        Program, BodyStatement, BlockBody, Then, Do, Else, Ensure, Begin,
    }
    atoms {
        String, Subshell, Regex, DelimitedSymbol, BareString, BareSymbol, Complex, Rational,
        Uninterpreted,
    }
    comments {
        Comment,
    }
    heredocs {
        HeredocBody,
    }
    words {
        Alias, IfModifier, UnlessModifier, WhileModifier, UntilModifier, RescueModifier, In, IfGuard, UnlessGuard, AsPattern, ExceptionVariable,
        Superclass, MatchPattern, TestPattern,
    }
    tight {
        ScopeResolution, SplatArgument, HashSplatArgument, BlockArgument, SplatParameter,
        HashSplatParameter, HashSplatNil, BlockParameter, RestAssignment, Setter,
        VariableReferencePattern,
    }
    commas {
        Undef, BareParameters, LeftAssignmentList,
    }
    ruled {
        Method, SingletonMethod, Class, SingletonClass, Module, BeginBlock, EndBlock,
        If, Unless, Elsif, While, Until, For, Case, CaseMatch, When, InClause, Rescue,
        DoBlock, Block, BlockParameters, MethodParameters, LambdaParameters, DestructuredParameter,
        KeywordParameter, OptionalParameter, Exceptions,
        Return, Yield, Break, Next, Redo, Retry, Call, ArgumentList, ElementReference, Lambda, Array, Hash, Pair, StringArray, SymbolArray,
        Assignment, OperatorAssignment, Conditional, Range, Binary, Unary, ParenthesizedStatements,
        RightAssignmentList, DestructuredLeftAssignment, ChainedString, Pattern,
        ArrayPattern, FindPattern, HashPattern, KeywordPattern, AlternativePattern,
        ParenthesizedPattern, ExpressionReferencePattern,
    }
    plain {
        Identifier, Constant, InstanceVariable, ClassVariable, GlobalVariable, SimpleSymbol,
        HashKeySymbol, Integer, Float, Character, HeredocBeginning, Operator, EmptyStatement,
    }
    marks {
        DoWord = "do", End = "end", Equals = "=", Bar = "|", DataMark = "__END__",
        EnsureWord = "ensure", ElseWord = "else",
    }
    separators {
        Comma = ",", Semicolon = ";", ThenWord = "then",
    }
}
