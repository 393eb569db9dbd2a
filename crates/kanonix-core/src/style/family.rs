//! What languages have that settings are about.

/// What a language has to have for a setting, or for one key of it, to mean anything there. A
/// language names the families that it has.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Family {
    /// Lines, comments and lists: every language has them.
    Text,
    /// Comments that end with their line.
    LineComments,
    /// Collections in square brackets and in braces.
    Collections,
    /// Lists that may end with a comma.
    LastComma,
    /// Signs with something on each side of them.
    Signs,
    /// Operations, calls and parentheses.
    Expressions,
    /// Marks, rather than words, that compare and that join bits.
    CompareMarks,
    /// Lines that may end inside brackets only.
    LinesInBrackets,
    /// Parentheses of declarations that may stand apart from the name.
    ApartParens,
    /// Those of calls.
    ApartCalls,
    /// Lines that may end on either side of an operator.
    EitherSide,
    /// Lines that may end on either side of the dot before a method.
    Dots,
    /// Imports, functions, classes, and blocks under headers.
    Definitions,
    /// Types with blocks of their own: classes, a style sheet's rules.
    Classes,
    /// Methods of types, and cases of a value.
    Members,
    /// Fields that a class declares.
    Fields,
    /// Types, or what a file of values has in their place: tables.
    Types,
    /// Headers with blocks behind them.
    Headers,
    /// Braces around blocks.
    Blocks,
    /// What may stand between two braces behind a header, on its line.
    InlineBlocks,
    /// Braces around what functions do, and `else` behind them.
    Braces,
    /// Loops with their condition behind what they do.
    DoLoops,
    /// Braces around what functions without a name do, on either line.
    LambdaBraces,
    /// The cases of a `switch`.
    Cases,
    /// Headers in parentheses: `if (a)`.
    ParenHeaders,
    /// Headers behind which a statement may stand without braces.
    BareBodies,
    /// Functions that a whole file stands in.
    Wrappers,
    /// Functions without a name that may do several things.
    Lambdas,
    /// Functions without a name that begin with a word: `function (a)`.
    NamelessFunctions,
    /// Several names in one declaration: `let a = 1, b = 2`.
    Declarators,
    /// Words that say who may use the members behind them: `private`.
    AccessWords,
    /// Namespaces.
    Namespaces,
    /// Braces around anything else.
    OtherBlocks,
    /// Blocks that are a value.
    ValueBlocks,
    /// Angle brackets around types.
    Angles,
    /// An operator for powers.
    Powers,
    /// Ranges, whose ends stand beside their sign.
    Ranges,
    /// A condition with two answers: `a ? b : c`.
    Ternaries,
    /// One whose lines may end on either side of its signs.
    TernaryPlaces,
    /// Types of several alternatives with bars between them.
    Alternatives,
    /// Keys with their values.
    Pairs,
    /// Names with their types.
    Annotations,
    /// Marks, rather than words, for "and" and "or".
    LogicMarks,
    /// Parameters with default values, arguments with names and a sign behind them.
    Defaults,
    /// Parentheses that may open around one thing.
    Parentheses,
    /// A `!` that negates.
    Not,
    /// Tags with attributes.
    Markup,
    /// Expressions in markup.
    MarkupExpressions,
    /// Names with values behind a sign.
    Values,
    /// Properties, with accessors between braces.
    Accessors,
    /// Braces around values behind what they are for.
    Initializers,
    /// Types in parentheses before a value.
    Casts,
    /// Annotations and attributes before declarations, and clauses behind them.
    Attributes,
    /// Imports of single names, which do nothing by themselves.
    NamedImports,
    /// What a function may throw, in its header.
    Throws,
    /// Functions with the type of what they return before their name.
    ReturnTypes,
    /// Words before declarations: `public static`.
    Modifiers,
    /// Lines that a program before the compiler reads: `#if`, `#region`.
    Directives,
    /// Pages, with elements that may hold text, and other languages.
    Pages,
    /// Style sheets, with colours and lengths.
    Sheets,
    /// Strings in either kind of quotes.
    Quotes,
    /// Keywords whose case says nothing.
    AnyCase,
    /// Statements that may end with a semicolon.
    StatementEnd,
    /// Statements that may stand on a line with others, whose ends are never taken away.
    SharedLines,
}
