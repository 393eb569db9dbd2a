//! The grammar's kinds of node that a rule names.

use crate::syntax::{Role, kinds};

kinds! {
    nodes {
        SourceFile = "source_file",
        Shebang = "shebang",
        AttributeItem = "attribute_item",
        InnerAttributeItem = "inner_attribute_item",
        Attribute = "attribute",
        MacroDefinition = "macro_definition",
        MacroRule = "macro_rule",
        MacroInvocation = "macro_invocation",
        TokenTree = "token_tree",
        EmptyStatement = "empty_statement",
        ExpressionStatement = "expression_statement",
        LetDeclaration = "let_declaration",
        ModItem = "mod_item",
        ForeignModItem = "foreign_mod_item",
        DeclarationList = "declaration_list",
        StructItem = "struct_item",
        UnionItem = "union_item",
        EnumItem = "enum_item",
        EnumVariantList = "enum_variant_list",
        EnumVariant = "enum_variant",
        FieldDeclarationList = "field_declaration_list",
        FieldDeclaration = "field_declaration",
        OrderedFieldDeclarationList = "ordered_field_declaration_list",
        ExternCrateDeclaration = "extern_crate_declaration",
        ConstItem = "const_item",
        StaticItem = "static_item",
        TypeItem = "type_item",
        AssociatedType = "associated_type",
        FunctionItem = "function_item",
        FunctionSignatureItem = "function_signature_item",
        FunctionModifiers = "function_modifiers",
        ExternModifier = "extern_modifier",
        VisibilityModifier = "visibility_modifier",
        ImplItem = "impl_item",
        TraitItem = "trait_item",
        WhereClause = "where_clause",
        WherePredicate = "where_predicate",
        UseDeclaration = "use_declaration",
        ScopedUseList = "scoped_use_list",
        UseList = "use_list",
        UseAsClause = "use_as_clause",
        UseWildcard = "use_wildcard",
        Parameters = "parameters",
        SelfParameter = "self_parameter",
        VariadicParameter = "variadic_parameter",
        Parameter = "parameter",
        TraitBounds = "trait_bounds",
        HigherRankedTraitBound = "higher_ranked_trait_bound",
        RemovedTraitBound = "removed_trait_bound",
        TypeParameters = "type_parameters",
        ConstParameter = "const_parameter",
        TypeParameter = "type_parameter",
        LifetimeParameter = "lifetime_parameter",
        BracketedType = "bracketed_type",
        QualifiedType = "qualified_type",
        Lifetime = "lifetime",
        ArrayType = "array_type",
        ForLifetimes = "for_lifetimes",
        FunctionType = "function_type",
        TupleType = "tuple_type",
        UnitType = "unit_type",
        GenericFunction = "generic_function",
        GenericType = "generic_type",
        GenericTypeWithTurbofish = "generic_type_with_turbofish",
        BoundedType = "bounded_type",
        UseBounds = "use_bounds",
        TypeArguments = "type_arguments",
        TypeBinding = "type_binding",
        ReferenceType = "reference_type",
        PointerType = "pointer_type",
        NeverType = "never_type",
        AbstractType = "abstract_type",
        DynamicType = "dynamic_type",
        ScopedIdentifier = "scoped_identifier",
        ScopedTypeIdentifier = "scoped_type_identifier",
        RangeExpression = "range_expression",
        UnaryExpression = "unary_expression",
        TryExpression = "try_expression",
        ReferenceExpression = "reference_expression",
        BinaryExpression = "binary_expression",
        AssignmentExpression = "assignment_expression",
        CompoundAssignmentExpression = "compound_assignment_expr",
        TypeCastExpression = "type_cast_expression",
        ReturnExpression = "return_expression",
        YieldExpression = "yield_expression",
        CallExpression = "call_expression",
        Arguments = "arguments",
        ArrayExpression = "array_expression",
        ParenthesizedExpression = "parenthesized_expression",
        TupleExpression = "tuple_expression",
        UnitExpression = "unit_expression",
        StructExpression = "struct_expression",
        FieldInitializerList = "field_initializer_list",
        ShorthandFieldInitializer = "shorthand_field_initializer",
        FieldInitializer = "field_initializer",
        BaseFieldInitializer = "base_field_initializer",
        IfExpression = "if_expression",
        LetCondition = "let_condition",
        LetChain = "let_chain",
        ElseClause = "else_clause",
        MatchExpression = "match_expression",
        MatchBlock = "match_block",
        MatchArm = "match_arm",
        MatchPattern = "match_pattern",
        WhileExpression = "while_expression",
        LoopExpression = "loop_expression",
        ForExpression = "for_expression",
        ConstBlock = "const_block",
        ClosureExpression = "closure_expression",
        ClosureParameters = "closure_parameters",
        Label = "label",
        BreakExpression = "break_expression",
        ContinueExpression = "continue_expression",
        IndexExpression = "index_expression",
        AwaitExpression = "await_expression",
        FieldExpression = "field_expression",
        UnsafeBlock = "unsafe_block",
        AsyncBlock = "async_block",
        GenBlock = "gen_block",
        TryBlock = "try_block",
        Block = "block",
        GenericPattern = "generic_pattern",
        TuplePattern = "tuple_pattern",
        SlicePattern = "slice_pattern",
        TupleStructPattern = "tuple_struct_pattern",
        StructPattern = "struct_pattern",
        FieldPattern = "field_pattern",
        RemainingFieldPattern = "remaining_field_pattern",
        MutPattern = "mut_pattern",
        RangePattern = "range_pattern",
        RefPattern = "ref_pattern",
        CapturedPattern = "captured_pattern",
        ReferencePattern = "reference_pattern",
        OrPattern = "or_pattern",
        NegativeLiteral = "negative_literal",
        Identifier = "identifier",
        SelfValue = "self",
        IntegerLiteral = "integer_literal",
        FloatLiteral = "float_literal",
        StringLiteral = "string_literal",
        RawStringLiteral = "raw_string_literal",
        CharLiteral = "char_literal",
        LineComment = "line_comment",
        BlockComment = "block_comment",
    }
    marks {
        Comma = ",",
        Semicolon = ";",
        Colon = ":",
        Equals = "=",
        Bang = "!",
        Ampersand = "&",
        Star = "*",
        Question = "?",
        Bar = "|",
        Plus = "+",
        Arrow = "->",
        FatArrow = "=>",
        Point = ".",
        OpenParen = "(",
        CloseParen = ")",
        OpenBracket = "[",
        CloseBracket = "]",
        OpenBrace = "{",
        CloseBrace = "}",
        OpenAngle = "<",
        CloseAngle = ">",
        For = "for",
        If = "if",
        Else = "else",
        Fn = "fn",
        Impl = "impl",
        In = "in",
        Use = "use",
    }
}

/// What the copying walk does with a kind. What stands between a macro's brackets is read once
/// more; a rule of a macro's definition is one token.
pub(super) fn role(kind: u16) -> Role {
    match Kind::of(kind) {
        Kind::StringLiteral
        | Kind::RawStringLiteral
        | Kind::CharLiteral
        | Kind::Lifetime
        | Kind::Label
        | Kind::Shebang
        | Kind::MacroRule => Role::Atom,
        Kind::LineComment | Kind::BlockComment => Role::Comment,
        Kind::TokenTree => Role::Unread,
        Kind::SourceFile | Kind::Block | Kind::DeclarationList => Role::Statements,
        Kind::MatchBlock
        | Kind::EnumVariantList
        | Kind::FieldDeclarationList
        | Kind::FieldInitializerList
        | Kind::ArrayExpression => Role::Body,
        _ => Role::Plain,
    }
}

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
