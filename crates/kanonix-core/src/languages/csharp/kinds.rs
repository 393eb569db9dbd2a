//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;

kinds! {
    statements {
        CompilationUnit, Block, DeclarationList, SwitchSection,
    }
    bodies {
        InitializerExpression, EnumMemberDeclarationList,
    }
    atoms {
        StringLiteral, CharacterLiteral, VerbatimStringLiteral, RawStringLiteral,
        InterpolatedStringExpression, PreprocRegion, PreprocEndregion, PreprocLine, PreprocPragma,
        PreprocNullable, PreprocError, PreprocWarning, PreprocDefine, PreprocUndef, PreprocIf,
    }
    comments {
        Comment,
    }
    words {
        GlobalStatement, TypeParameter, RefType, ScopedType, TupleElement, Modifier,
        FunctionPointerParameter, AwaitExpression, ThrowExpression, RefExpression,
        DeclarationExpression, WhenClause, NegatedPattern, VarPattern,
        DeclarationPattern, TypePattern, ConstantPattern, RelationalPattern, FromClause, JoinClause,
        JoinIntoClause, WhereClause, SelectClause, GroupClause, ExpressionElement, CollectionElement,
    }
    tight {
        ArrayType, NullableType, QualifiedName, AliasQualifiedName, GenericName,
        ExplicitInterfaceSpecifier, ConstructorConstraint, TypeParameterConstraint,
        AttributeTargetSpecifier, PostfixUnaryExpression,
    }
    ruled {
        ExternAliasDirective, UsingDirective, GlobalAttribute, AttributeList, Attribute,
        AttributeArgumentList, AttributeArgument, NamespaceDeclaration,
        FileScopedNamespaceDeclaration, ClassDeclaration, StructDeclaration, InterfaceDeclaration,
        RecordDeclaration, EnumDeclaration, EnumMemberDeclaration, DelegateDeclaration, BaseList,
        PrimaryConstructorBaseType, TypeParameterList, TypeParameterConstraintsClause,
        FieldDeclaration, EventFieldDeclaration, VariableDeclaration, VariableDeclarator,
        MethodDeclaration, LocalFunctionStatement, ConstructorDeclaration, ConstructorInitializer,
        DestructorDeclaration, OperatorDeclaration, ConversionOperatorDeclaration,
        PropertyDeclaration, IndexerDeclaration, EventDeclaration, AccessorList,
        AccessorDeclaration, ArrowExpressionClause, ParameterList, BracketedParameterList,
        Parameter, TypeArgumentList, ArrayRankSpecifier, TupleType, FunctionPointerType,
        CallingConvention, PointerType,
        ExpressionStatement, LocalDeclarationStatement, ReturnStatement, ThrowStatement,
        BreakStatement, ContinueStatement, YieldStatement, GotoStatement, IfStatement,
        WhileStatement, DoStatement, ForStatement, ForeachStatement, UsingStatement, FixedStatement,
        LockStatement, CheckedStatement, UnsafeStatement, SwitchStatement, SwitchBody, TryStatement,
        CatchClause, CatchDeclaration, CatchFilterClause, FinallyClause, LabeledStatement,
        EmptyStatement,
        ArgumentList, BracketedArgumentList, ElementBindingExpression, Argument,
        AssignmentExpression, BinaryExpression, IsExpression, AsExpression, IsPatternExpression,
        ConditionalExpression, PrefixUnaryExpression,
        CastExpression, ParenthesizedExpression, LambdaExpression, AnonymousMethodExpression,
        InvocationExpression, MemberAccessExpression, ElementAccessExpression,
        ConditionalAccessExpression, MemberBindingExpression, ObjectCreationExpression,
        ImplicitObjectCreationExpression, ArrayCreationExpression, ImplicitArrayCreationExpression,
        StackallocExpression, ImplicitStackallocExpression, AnonymousObjectCreationExpression,
        CollectionExpression, SwitchExpression, SwitchExpressionArm, WithExpression, WithInitializer,
        TupleExpression, DefaultExpression, SizeofExpression, TypeofExpression, CheckedExpression,
        MakerefExpression, ReftypeExpression, RefvalueExpression, RangeExpression, QueryExpression,
        LetClause, OrderByClause, SpreadElement,
        AndPattern, OrPattern, ListPattern, RecursivePattern, PositionalPatternClause,
        PropertyPatternClause, Subpattern, ParenthesizedPattern, ParenthesizedVariableDesignation,
        TuplePattern,
    }
    plain {
        Identifier, PredefinedType, ImplicitType, ImplicitParameter, ShebangDirective, Discard,
    }
    marks {
        OpenParen = "(", CloseParen = ")", OpenBracket = "[", CloseBracket = "]", Equals = "=",
        Colon = ":", Tilde = "~", Operator = "operator", This = "this", Base = "base", Into = "into",
    }
    separators {
        Comma = ",", Semicolon = ";",
    }
}
