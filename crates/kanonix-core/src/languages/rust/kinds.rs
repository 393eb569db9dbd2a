//! The grammar's kinds of node that a rule names.

use crate::languages::kinds::kinds;
use crate::syntax::Last;

kinds! {
    statements {
        SourceFile, DeclarationList, Block,
    }
    bodies {
        EnumVariantList, FieldDeclarationList, ArrayExpression, FieldInitializerList, MatchBlock,
    }
    atoms {
        Shebang, MacroRule, Lifetime, Label, StringLiteral, RawStringLiteral, CharLiteral,
    }
    comments {
        LineComment, BlockComment,
    }
    unread {
        TokenTree,
    }
    words {
        FunctionModifiers, ExternModifier, UseAsClause, QualifiedType, DynamicType,
        ReturnExpression, YieldExpression, StructExpression, BreakExpression, ContinueExpression,
        MutPattern, RefPattern, CapturedPattern,
    }
    tight {
        AttributeItem, InnerAttributeItem, ExpressionStatement, WherePredicate, ScopedUseList,
        UseWildcard, RemovedTraitBound, GenericFunction, GenericType, GenericTypeWithTurbofish,
        ScopedIdentifier, ScopedTypeIdentifier, BaseFieldInitializer, GenericPattern,
        NegativeLiteral,
    }
    plain {
        EmptyStatement, RemainingFieldPattern, Identifier, SelfValue = "self", IntegerLiteral,
        FloatLiteral,
    }
    ruled {
        Attribute, MacroDefinition, MacroInvocation, LetDeclaration, ModItem, ForeignModItem,
        StructItem, UnionItem, EnumItem, EnumVariant, FieldDeclaration, OrderedFieldDeclarationList,
        ExternCrateDeclaration, ConstItem, StaticItem, TypeItem, AssociatedType, FunctionItem,
        FunctionSignatureItem, VisibilityModifier, ImplItem, TraitItem, WhereClause, UseDeclaration,
        UseList, Parameters, SelfParameter, VariadicParameter, Parameter, TraitBounds,
        HigherRankedTraitBound, TypeParameters, ConstParameter, TypeParameter, LifetimeParameter,
        BracketedType, ArrayType, ForLifetimes, FunctionType, TupleType, UnitType, BoundedType,
        UseBounds, TypeArguments, TypeBinding, ReferenceType, PointerType, AbstractType,
        RangeExpression, UnaryExpression, TryExpression, ReferenceExpression, BinaryExpression,
        AssignmentExpression, CompoundAssignmentExpression = "compound_assignment_expr",
        TypeCastExpression, CallExpression, Arguments, ParenthesizedExpression, TupleExpression,
        UnitExpression, ShorthandFieldInitializer, FieldInitializer, IfExpression, LetCondition,
        LetChain, ElseClause, MatchExpression, MatchArm, MatchPattern, WhileExpression,
        LoopExpression, ForExpression, ConstBlock, ClosureExpression, ClosureParameters,
        IndexExpression, AwaitExpression, FieldExpression, UnsafeBlock, AsyncBlock, GenBlock,
        TryBlock, TuplePattern, SlicePattern, TupleStructPattern, StructPattern, FieldPattern,
        RangePattern, ReferencePattern, OrPattern,
    }
    marks {
        Colon = ":", Equals = "=", Bang = "!", Ampersand = "&", Plus = "+", OpenParen = "(",
        CloseParen = ")", OpenBracket = "[", OpenBrace = "{", OpenAngle = "<", For = "for",
        If = "if", Else = "else", In = "in",
    }
    separators {
        Comma = ",", Semicolon = ";",
    }
}

/// What takes all that is left is the last thing: the language allows no comma behind it.
pub(super) const LAST: Last = &[
    (None, Kind::VariadicParameter as u16),
    (None, Kind::BaseFieldInitializer as u16),
    (Some(Kind::StructPattern as u16), Kind::RemainingFieldPattern as u16),
];

/// Whether what stands between a macro's brackets may be laid out, by the kinds of its parts:
/// expressions between parentheses or square brackets, items between braces.
pub(super) fn accepts(parts: &[u16]) -> bool {
    let kind = |part: &u16| Kind::of(*part);
    match parts {
        [opener, inner @ .., _] if kind(opener) == Kind::OpenBrace => {
            let is_item = |part: &u16| {
                matches!(
                    kind(part),
                    Kind::AttributeItem
                        | Kind::FunctionItem
                        | Kind::StructItem
                        | Kind::UnionItem
                        | Kind::EnumItem
                        | Kind::TraitItem
                        | Kind::ImplItem
                        | Kind::ModItem
                        | Kind::ForeignModItem
                        | Kind::ConstItem
                        | Kind::StaticItem
                        | Kind::TypeItem
                        | Kind::UseDeclaration
                        | Kind::LineComment
                        | Kind::BlockComment
                )
            };
            !inner.is_empty() && inner.iter().all(is_item)
        }
        [opener, .., _] => matches!(kind(opener), Kind::OpenParen | Kind::OpenBracket),
        _ => false,
    }
}
