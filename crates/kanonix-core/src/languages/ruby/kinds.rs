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
        Alias, In, IfGuard, UnlessGuard, AsPattern, ExceptionVariable,
        Superclass, MatchPattern, TestPattern,
    }
    tight {
        ScopeResolution, SplatArgument, HashSplatArgument, BlockArgument, SplatParameter,
        HashSplatParameter, HashSplatNil, BlockParameter, RestAssignment, Setter,
        VariableReferencePattern,
    }
    commas {
        Undef, LeftAssignmentList,
    }
    ruled {
        Method, SingletonMethod, Class, SingletonClass, Module, BeginBlock, EndBlock,
        IfModifier, UnlessModifier, WhileModifier, UntilModifier, RescueModifier,
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
        DoWord = "do", End = "end", Equals = "=",
    }
    separators {
        Comma = ",", Semicolon = ";", ThenWord = "then",
    }
}
