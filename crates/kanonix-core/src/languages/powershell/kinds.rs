//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;

kinds! {
    statements {
        Program, StatementList, NamedBlockList, SwitchClauses,
    }
    bodies {
        HashLiteralBody,
    }
    atoms {
        ExpandableStringLiteral, VerbatimStringCharacters, ExpandableHereStringLiteral,
        VerbatimHereStringCharacters, TypeLiteral, AttributeName, Variable, CommandName,
        PathCommandName, StopParsing, VerbatimCommandArgument, CommandParameter, MergingRedirectionOperator,
        FileRedirectionOperator,
    }
    comments {
        Comment,
    }
    // A value stands in one construct for each rank of operators that there may be.
    wrappers {
        Pipeline, PipelineChain, LogicalExpression, BitwiseExpression, ComparisonExpression,
        AdditiveExpression, MultiplicativeExpression, FormatExpression, RangeExpression,
        ArrayLiteralExpression, UnaryExpression, ArgumentExpression, LogicalArgumentExpression,
        BitwiseArgumentExpression, ComparisonArgumentExpression, AdditiveArgumentExpression,
        MultiplicativeArgumentExpression, FormatArgumentExpression, RangeArgumentExpression,
        ExpressionWithUnaryOperator, LeftAssignmentExpression, AssignementOperator,
        ComparisonOperator, FormatOperator, StringLiteral, IntegerLiteral, KeyExpression, MemberName,
        CommandNameExpr, CommandInvokationOperator, CommandArgumentSep, Redirections,
        RedirectedFileName, ScriptBlockBody, AttributeList, Attribute, AttributeArgument,
        ForInitializer, ForCondition, ForIterator, WhileCondition, SwitchParameters, SwitchParameter,
        SwitchClauseCondition, ForeachParameter, ElseifClauses, CatchClauses, PipelineChainTail,
        BlockName, LabelExpression, DataName, DataCommand, EmptyStatement,
    }
    // Around `param (…)` and what follows it, or around that alone; around an argument and a blank behind it.
    loose {
        ScriptBlock, CommandElements,
    }
    words {
        EnumMember,
    }
    tight {
        PreIncrementExpression, PreDecrementExpression, PostIncrementExpression,
        PostDecrementExpression,
    }
    commas {
        CatchTypeList, DataCommandsList,
    }
    ruled {
        ParamBlock, ParameterList, ScriptParameter, ScriptParameterDefault, AttributeArguments,
        NamedBlock, StatementBlock, IfStatement, ElseifClause, ElseClause, SwitchStatement,
        SwitchCondition, SwitchBody, SwitchClause, ForeachStatement, ForStatement, WhileStatement,
        DoStatement, FunctionStatement, FunctionParameterDeclaration, TrapStatement, TryStatement,
        CatchClause, FinallyClause, DataStatement, InlinescriptStatement, ParallelStatement,
        SequenceStatement, FlowControlStatement, DataCommandsAllowed, ClassStatement, ClassPropertyDefinition, ClassMethodDefinition,
        ClassMethodParameter, ClassMethodParameterList, EnumStatement,
        AssignmentExpression, Command, Redirection, ParenthesizedExpression, SubExpression,
        ArrayExpression, ScriptBlockExpression, HashLiteralExpression, HashEntry, CastExpression,
        MemberAccess, ElementAccess, InvokationExpression,
        InvokationForeachExpression, ArgumentList, ArgumentExpressionList,
    }
    plain {
        SimpleName, FunctionName, GenericToken, DecimalIntegerLiteral, HexadecimalIntegerLiteral,
        RealLiteral, Label, BackgroundOperator, ClassAttribute, TypeName, TypeIdentifier, SwitchFilename,
    }
    marks {
        OpenParen = "(", OpenBrace = "{", Equals = "=",
        Param = "param",
    }
    separators {
        Comma = ",", Semicolon = ";",
    }
}
