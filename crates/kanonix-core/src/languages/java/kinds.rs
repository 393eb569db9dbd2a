//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;

kinds! {
    statements {
        Program, Block, ConstructorBody, ClassBody, InterfaceBody, AnnotationTypeBody, ModuleBody,
        SwitchBlockStatementGroup, EnumBodyDeclarations,
    }
    bodies {
        ArrayInitializer, EnumBody,
    }
    atoms {
        StringLiteral, CharacterLiteral,
    }
    comments {
        LineComment, BlockComment,
    }
    words {
        Pattern, TypePattern, RecordPatternComponent, CatchType, TypeBound, Wildcard, Guard, TypeParameter,
        AnnotatedType,
    }
    tight {
        ScopedIdentifier, MarkerAnnotation, ClassLiteral, UpdateExpression, MethodReference,
        TemplateExpression, GenericType, RecordPattern,
    }
    ruled {
        PackageDeclaration, ImportDeclaration, ModuleDeclaration, RequiresModuleDirective,
        ExportsModuleDirective, OpensModuleDirective, UsesModuleDirective, ProvidesModuleDirective,
        ClassDeclaration, InterfaceDeclaration, EnumDeclaration, RecordDeclaration,
        AnnotationTypeDeclaration, AnnotationTypeElementDeclaration, Superclass, SuperInterfaces,
        ExtendsInterfaces, Permits, TypeList, Throws, EnumConstant, FieldDeclaration,
        ConstantDeclaration, LocalVariableDeclaration, VariableDeclarator, MethodDeclaration,
        ConstructorDeclaration, CompactConstructorDeclaration, StaticInitializer,
        ExplicitConstructorInvocation, FormalParameters, FormalParameter, SpreadParameter,
        ReceiverParameter, InferredParameters, TypeParameters, TypeArguments, RecordPatternBody,
        Modifiers, Annotation, AnnotationArgumentList, ElementValuePair,
        ElementValueArrayInitializer, ArrayType, ScopedTypeIdentifier, Dimensions, DimensionsExpr,
        ExpressionStatement, ReturnStatement, ThrowStatement, BreakStatement, ContinueStatement,
        YieldStatement, AssertStatement, IfStatement, WhileStatement, DoStatement, ForStatement,
        EnhancedForStatement, SynchronizedStatement, TryStatement, TryWithResourcesStatement,
        ResourceSpecification, Resource, CatchClause, CatchFormalParameter, FinallyClause,
        LabeledStatement, SwitchExpression, SwitchBlock, SwitchRule, SwitchLabel,
        ArgumentList, ArrayAccess, ArrayCreationExpression, AssignmentExpression, BinaryExpression,
        CastExpression, FieldAccess, InstanceofExpression, LambdaExpression, MethodInvocation,
        ObjectCreationExpression, ParenthesizedExpression, TernaryExpression, UnaryExpression,
    }
    plain {
        Identifier, This, Super, TypeIdentifier,
    }
    marks {
        OpenParen = "(", CloseParen = ")", OpenBracket = "[", Equals = "=", Colon = ":",
        Dot = ".", Dots = "...",
    }
    separators {
        Comma = ",", Semicolon = ";",
    }
}
