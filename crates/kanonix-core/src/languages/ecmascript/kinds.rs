//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;
use crate::syntax::{Ending, Last};

kinds! {
    statements {
        Program, StatementBlock, ClassBody,
    }
    bodies {
        Object, Array, EnumBody, ObjectType,
    }
    atoms {
        String, TemplateString, Regex, TemplateLiteralType,
    }
    comments {
        Comment, HtmlComment,
    }
    texts {
        JsxText, HtmlCharacterReference,
    }
    words {
        ExportSpecifier, NamespaceExport, ImportSpecifier, ImportAttribute, NamespaceImport,
        AwaitExpression, AsExpression, SatisfiesExpression, TypePredicate, Asserts, Constraint,
        ReadonlyType, InferType, TypeQuery, IndexTypeQuery, PredefinedType,
        UniqueSymbol = "unique symbol",
    }
    tight {
        Decorator, RestPattern, SpreadElement, OptionalChain, UpdateExpression, MetaProperty,
        JsxClosingElement, JsxNamespaceName, NestedIdentifier, NonNullExpression,
        InstantiationExpression, TypeAssertion, GenericType, NestedTypeIdentifier, OptionalType,
        RestType, LiteralType, FlowMaybeType,
    }
    commas {
        ImportClause, SequenceExpression,
    }
    plain {
        HashBangLine, EmptyStatement, ImportFunction = "import", Identifier, This, Super, Number,
        AccessibilityModifier, OverrideModifier,
    }
    ruled {
        ExportStatement, ExportClause, ImportStatement, NamedImports, ExpressionStatement,
        VariableDeclaration, LexicalDeclaration, UsingDeclaration, VariableDeclarator, IfStatement,
        ElseClause, SwitchStatement, SwitchBody, SwitchCase, SwitchDefault, ForStatement,
        ForInStatement, WhileStatement, DoStatement, WithStatement, TryStatement, CatchClause,
        FinallyClause, BreakStatement, ContinueStatement, DebuggerStatement, ReturnStatement,
        ThrowStatement, LabeledStatement, ClassDeclaration, Class, ClassHeritage, ClassStaticBlock,
        FieldDefinition, MethodDefinition, FunctionDeclaration, FunctionExpression,
        GeneratorFunction, GeneratorFunctionDeclaration, ArrowFunction, FormalParameters,
        ParenthesizedExpression, Pair, ComputedPropertyName, ObjectPattern, PairPattern,
        ObjectAssignmentPattern, AssignmentPattern, ArrayPattern, CallExpression, NewExpression,
        Arguments, MemberExpression, SubscriptExpression, AssignmentExpression,
        AugmentedAssignmentExpression, TernaryExpression, BinaryExpression, UnaryExpression,
        YieldExpression, JsxElement, JsxSelfClosingElement, JsxOpeningElement, JsxAttribute,
        JsxExpression, ImportRequireClause, ImportAlias, AmbientDeclaration,
        AbstractClassDeclaration, Module, InternalModule, InterfaceDeclaration, InterfaceBody,
        ExtendsClause, ExtendsTypeClause, ImplementsClause, EnumDeclaration, EnumAssignment,
        TypeAliasDeclaration, FunctionSignature, MethodSignature, AbstractMethodSignature,
        PropertySignature, CallSignature, ConstructSignature, IndexSignature, MappedTypeClause,
        PublicFieldDefinition, RequiredParameter, OptionalParameter, TypeAnnotation,
        OmittingTypeAnnotation, AddingTypeAnnotation, OptingTypeAnnotation, AssertsAnnotation,
        TypePredicateAnnotation, TypeParameters, TypeParameter, TypeArguments, DefaultType,
        ArrayType, TupleType, UnionType, IntersectionType, FunctionType, ConstructorType,
        ConditionalType, ParenthesizedType, LookupType,
    }
    marks {
        Colon = ":", Star = "*", OpenParen = "(", CloseParen = ")", OpenBracket = "[", Equals = "=",
        Question = "?", Bang = "!", Function = "function", New = "new", Async = "async",
    }
    separators {
        Comma = ",", Semicolon = ";",
    }
}

/// What takes all the other elements, or parameters, is the last one: the grammar reads a comma behind
/// it, and the standard has none.
pub(super) const LAST: Last = &[
    (None, Kind::RestPattern as u16),
    (Some(Kind::TupleType as u16), Kind::RestType as u16),
];

/// What ends where its line ends (*ECMAScript*, "Automatic Semicolon Insertion", its restricted
/// productions; TypeScript's array types).
pub(super) fn ends_lines(kind: u16) -> Option<Ending> {
    match Kind::of(kind) {
        Kind::ReturnStatement
        | Kind::ThrowStatement
        | Kind::BreakStatement
        | Kind::ContinueStatement
        | Kind::YieldExpression => Some(Ending::FirstWord),
        Kind::ArrayType => Some(Ending::Brackets),
        _ => None,
    }
}
