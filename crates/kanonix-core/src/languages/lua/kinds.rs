//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;

kinds! {
    statements {
        Chunk, Block,
    }
    loose {
        EmptyStatement,
    }
    bodies {
        TableConstructor,
    }
    atoms {
        String, HashBangLine,
    }
    comments {
        Comment,
    }
    words {
        GotoStatement, ImplicitVariableDeclaration,
    }
    tight {
        LabelStatement, Attribute,
    }
    ruled {
        FunctionDeclaration, FunctionDefinition, VariableDeclaration, AssignmentStatement,
        ReturnStatement, DoStatement, WhileStatement, RepeatStatement, IfStatement,
        ElseifStatement, ElseStatement, ForStatement, ForGenericClause, ForNumericClause,
        VariableList, ExpressionList, Parameters, Arguments, Field, FunctionCall,
        MethodIndexExpression, DotIndexExpression, BracketIndexExpression,
        ParenthesizedExpression, BinaryExpression, UnaryExpression,
    }
    plain {
        Identifier, Number, VarargExpression,
    }
    marks {
        Then = "then", Do = "do", Until = "until",
    }
    separators {
        Comma = ",", Semicolon = ";",
    }
}
