//! The grammar's kinds of node that a rule names.

use crate::syntax::{Role, kinds};

kinds! {
    nodes {
        Module = "module",
        ImportStatement = "import_statement",
        ImportFromStatement = "import_from_statement",
        FutureImportStatement = "future_import_statement",
        RelativeImport = "relative_import",
        ImportPrefix = "import_prefix",
        DottedName = "dotted_name",
        AliasedImport = "aliased_import",
        WildcardImport = "wildcard_import",
        AssertStatement = "assert_statement",
        ExpressionStatement = "expression_statement",
        ReturnStatement = "return_statement",
        DeleteStatement = "delete_statement",
        RaiseStatement = "raise_statement",
        PassStatement = "pass_statement",
        BreakStatement = "break_statement",
        ContinueStatement = "continue_statement",
        GlobalStatement = "global_statement",
        NonlocalStatement = "nonlocal_statement",
        TypeAliasStatement = "type_alias_statement",
        PrintStatement = "print_statement",
        ExecStatement = "exec_statement",
        Chevron = "chevron",
        IfStatement = "if_statement",
        ElifClause = "elif_clause",
        ElseClause = "else_clause",
        MatchStatement = "match_statement",
        CaseClause = "case_clause",
        ForStatement = "for_statement",
        WhileStatement = "while_statement",
        TryStatement = "try_statement",
        ExceptClause = "except_clause",
        FinallyClause = "finally_clause",
        WithStatement = "with_statement",
        WithClause = "with_clause",
        WithItem = "with_item",
        FunctionDefinition = "function_definition",
        ClassDefinition = "class_definition",
        DecoratedDefinition = "decorated_definition",
        Decorator = "decorator",
        Block = "block",
        Parameters = "parameters",
        LambdaParameters = "lambda_parameters",
        TypedParameter = "typed_parameter",
        DefaultParameter = "default_parameter",
        TypedDefaultParameter = "typed_default_parameter",
        ListSplat = "list_splat",
        ListSplatPattern = "list_splat_pattern",
        DictionarySplat = "dictionary_splat",
        DictionarySplatPattern = "dictionary_splat_pattern",
        ParenthesizedListSplat = "parenthesized_list_splat",
        KeywordSeparator = "keyword_separator",
        PositionalSeparator = "positional_separator",
        ArgumentList = "argument_list",
        KeywordArgument = "keyword_argument",
        TypeParameter = "type_parameter",
        Type = "type",
        UnionType = "union_type",
        GenericType = "generic_type",
        MemberType = "member_type",
        ConstrainedType = "constrained_type",
        SplatType = "splat_type",
        AsPattern = "as_pattern",
        AsPatternTarget = "as_pattern_target",
        CasePattern = "case_pattern",
        UnionPattern = "union_pattern",
        DictPattern = "dict_pattern",
        KeywordPattern = "keyword_pattern",
        SplatPattern = "splat_pattern",
        ClassPattern = "class_pattern",
        ComplexPattern = "complex_pattern",
        ExpressionList = "expression_list",
        PatternList = "pattern_list",
        TuplePattern = "tuple_pattern",
        ListPattern = "list_pattern",
        NamedExpression = "named_expression",
        NotOperator = "not_operator",
        BooleanOperator = "boolean_operator",
        BinaryOperator = "binary_operator",
        UnaryOperator = "unary_operator",
        ComparisonOperator = "comparison_operator",
        Lambda = "lambda",
        Assignment = "assignment",
        AugmentedAssignment = "augmented_assignment",
        Yield = "yield",
        Attribute = "attribute",
        Subscript = "subscript",
        Slice = "slice",
        Call = "call",
        List = "list",
        Set = "set",
        Tuple = "tuple",
        Dictionary = "dictionary",
        Pair = "pair",
        ListComprehension = "list_comprehension",
        DictionaryComprehension = "dictionary_comprehension",
        SetComprehension = "set_comprehension",
        GeneratorExpression = "generator_expression",
        ParenthesizedExpression = "parenthesized_expression",
        ForInClause = "for_in_clause",
        IfClause = "if_clause",
        ConditionalExpression = "conditional_expression",
        ConcatenatedString = "concatenated_string",
        Await = "await",
        IsNot = "is not",
        NotIn = "not in",
        Identifier = "identifier",
        Integer = "integer",
        Float = "float",
        String = "string",
        Comment = "comment",
        LineContinuation = "line_continuation",
    }
    marks {
        Comma = ",",
        Semicolon = ";",
        Colon = ":",
        OpenParen = "(",
        Star = "*",
        IsNotWords = "is not",
        NotInWords = "not in",
    }
}

/// What the copying walk does with a kind. A string is one token, whatever is written between its
/// quotes.
pub(super) fn role(kind: u16) -> Role {
    match Kind::of(kind) {
        Kind::String => Role::Atom,
        Kind::Comment => Role::Comment,
        Kind::LineContinuation => Role::Join,
        Kind::Module | Kind::Block => Role::Statements,
        Kind::Dictionary | Kind::List => Role::Body,
        _ => Role::Plain,
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

/// The grammar reads a stretch between back quotes as a string; it was an expression in Python 2,
/// and is nothing in Python 3.
pub(super) fn foreign(kind: u16, text: &str) -> bool {
    Kind::of(kind) == Kind::String && text.ends_with('`')
}
