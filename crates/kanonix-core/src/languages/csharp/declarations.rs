//! Namespaces, types and their members, in the grammar's order.

use super::expressions::{assigned, hugs};
use super::kinds::Kind;
use super::members::describe;
use crate::layout::plan::{GroupId, Rows, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Between, List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for a declaration; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::CompilationUnit => {
            p.may_share_lines();
            p.statements(parts, GroupId::ROOT, 0, sort);
        }
        Kind::ExternAliasDirective
        | Kind::UsingDirective
        | Kind::FileScopedNamespaceDeclaration
        | Kind::EnumMemberDeclaration
        | Kind::Parameter => member(p, node, parts),
        Kind::GlobalAttribute | Kind::AttributeList => attribute_list(p, parts),
        Kind::Attribute | Kind::PrimaryConstructorBaseType => {
            p.tight(parts);
            if let [_, arguments] = parts {
                p.parens(p.first(*arguments), p.choices.call_parens);
            }
        }
        Kind::AttributeArgumentList => _ = p.list(parts, List::new().closes_around_one()),
        Kind::AttributeArgument => {
            if let [_, sign, value] = parts {
                match p.is(*sign, Kind::Equals) {
                    true => p.sign(*sign, *value, Key::Default),
                    false => p.pair(parts, Key::Value),
                }
            }
        }
        Kind::DeclarationList => declaration_list(p, node, parts),
        Kind::EnumMemberDeclarationList => {
            let with = p.handed_block(node);
            if stays_empty(p, parts, p.first(node)) {
                return true;
            }
            let list = List::new().collection().last_comma().opens_around_lines();
            p.list(parts, list.with(with));
        }
        Kind::BaseList => base_list(p, node, parts),
        Kind::TypeParameterConstraintsClause => constraints(p, node, parts),
        Kind::FieldDeclaration | Kind::EventFieldDeclaration => member(p, node, parts),
        Kind::VariableDeclaration => variable_declaration(p, node, parts),
        Kind::VariableDeclarator => member(p, node, parts),
        Kind::NamespaceDeclaration
        | Kind::ClassDeclaration
        | Kind::StructDeclaration
        | Kind::InterfaceDeclaration
        | Kind::RecordDeclaration
        | Kind::EnumDeclaration
        | Kind::DelegateDeclaration
        | Kind::MethodDeclaration
        | Kind::LocalFunctionStatement
        | Kind::ConstructorDeclaration
        | Kind::DestructorDeclaration
        | Kind::OperatorDeclaration
        | Kind::ConversionOperatorDeclaration
        | Kind::PropertyDeclaration
        | Kind::IndexerDeclaration
        | Kind::EventDeclaration
        | Kind::AccessorDeclaration => member(p, node, parts),
        Kind::ConstructorInitializer => {
            p.words(parts);
            if let [.., arguments] = parts {
                p.parens(p.first(*arguments), p.choices.call_parens);
            }
        }
        Kind::AccessorList => match p.handed_block(node) {
            Some(group) => _ = p.flat_block(parts, group),
            None => p.block(parts, p.first(p.parent(node)), |p, accessors, group| {
                p.statements(accessors, group, 1, |_, _| Sort::Other);
                // Those of nothing but a word may share a line, where not all of it did.
                let may_share = p.is_spread(node);
                let is_word = |p: &Planner, accessor| p.token_text(p.end(accessor) - 1) == ";";
                for pair in accessors.windows(2) {
                    let token = p.first(pair[1]);
                    let are_words = is_word(p, pair[0]) && is_word(p, pair[1]);
                    if may_share && are_words && !p.broken_before(token) {
                        p.word(token, 1);
                    }
                }
            }),
        },
        Kind::ArrowExpressionClause => {
            if let [arrow, value] = parts {
                p.given(p.first(*arrow), *value, 1, hugs(p, *value));
            }
        }
        Kind::ParameterList | Kind::BracketedParameterList => {
            p.list(parts, List::new().declaration());
            // `params Gauge[] all` is no node of its own.
            go_on(p, parts);
        }
        Kind::TypeParameterList => _ = p.list(parts, List::new()),
        Kind::TypeArgumentList => _ = p.list(parts, List::new().reluctant()),
        Kind::TupleType => _ = p.list(parts, List::new()),
        Kind::ArrayRankSpecifier => ranks(p, parts),
        Kind::PointerType => pointer(p, node, parts),
        Kind::FunctionPointerType | Kind::CallingConvention => function_pointer(p, parts),
        _ => return false,
    }
    true
}

/// The order that the language's documentation puts the words before a declaration in; the last two
/// may stand nowhere else.
const MODIFIERS: &[&str] = &[
    "public", "private", "protected", "internal", "file", "static", "extern", "new", "virtual",
    "abstract", "sealed", "override", "readonly", "unsafe", "required", "volatile", "const",
    "async",
    "partial", "fixed",
];

/// One blank between the words of an element of a list that is no node of its own.
pub(super) fn go_on(p: &mut Planner, parts: &[NodeId]) {
    let [_, inner @ .., _] = parts else { return };
    for pair in inner.windows(2) {
        if !p.is_separator(pair[0]) && !p.is_separator(pair[1]) {
            p.word(p.first(pair[1]), 1);
        }
    }
}

fn sort(p: &Planner, node: NodeId) -> Sort {
    match Kind::at(p, node) {
        Kind::UsingDirective | Kind::ExternAliasDirective => Sort::Import,
        Kind::NamespaceDeclaration
        | Kind::FileScopedNamespaceDeclaration
        | Kind::ClassDeclaration
        | Kind::StructDeclaration
        | Kind::InterfaceDeclaration
        | Kind::RecordDeclaration
        | Kind::EnumDeclaration
            if has_lines(p, node) =>
        {
            Sort::Type
        }
        Kind::FieldDeclaration | Kind::EventFieldDeclaration => Sort::Field,
        Kind::GlobalStatement => match p.part(node, 0) {
            Some(inner) if p.is(inner, Kind::LocalFunctionStatement) && has_lines(p, inner) => {
                Sort::Function
            }
            _ => Sort::Other,
        },
        Kind::MethodDeclaration
        | Kind::ConstructorDeclaration
        | Kind::DestructorDeclaration
        | Kind::OperatorDeclaration
        | Kind::ConversionOperatorDeclaration
        | Kind::PropertyDeclaration
        | Kind::IndexerDeclaration
        | Kind::EventDeclaration
            if has_lines(p, node) =>
        {
            Sort::Member
        }
        _ => Sort::Other,
    }
}

/// Whether a declaration has a body that takes lines of its own, or a namespace to itself: short ones
/// stand together.
fn has_lines(p: &Planner, node: NodeId) -> bool {
    let body = p.parts(node).into_iter().find(|part| {
        matches!(
            Kind::at(p, *part),
            Kind::Block
                | Kind::DeclarationList
                | Kind::AccessorList
                | Kind::EnumMemberDeclarationList
        )
    });
    match body {
        Some(body) => {
            let key = match Kind::at(p, body) {
                Kind::Block => Key::Function,
                Kind::AccessorList => Key::Accessor,
                _ => Key::Type,
            };
            !p.keeps_flat(body, key)
        }
        None => p.is(node, Kind::FileScopedNamespaceDeclaration),
    }
}

/// What is before a part of a header.
fn between(p: &Planner, before: NodeId, part: NodeId) -> Between {
    match (Kind::at(p, before), Kind::at(p, part)) {
        (_, Kind::ParameterList) => Between::Parameters,
        (_, Kind::Equals) => Between::Sign(Key::Assign),
        (_, Kind::Comma | Kind::Semicolon | Kind::TypeParameterList)
        | (_, Kind::BracketedParameterList | Kind::BracketedArgumentList)
        | (Kind::ExplicitInterfaceSpecifier | Kind::Tilde, _) => Between::Nothing,
        _ => Between::Blank,
    }
}

/// `public int Level(int at) where T : Gauge { … }`, `public int Level { get; set; } = 2;`: the words
/// of a header, and what stands behind it.
fn member(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.header(parts, between);
    attributes(p, node, parts);
    if !p.is(node, Kind::Parameter) {
        let is_word = |part: &&NodeId| p.is(**part, Kind::Modifier);
        let words: Vec<TokenId> = parts.iter().filter(is_word).map(|part| p.first(*part)).collect();
        p.order_modifiers(&words, MODIFIERS);
    }
    let header = p.first(node);
    let is_function = matches!(
        Kind::at(p, node),
        Kind::MethodDeclaration | Kind::LocalFunctionStatement
    );
    if is_function {
        named(p, node, parts);
    }
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        if let [.., before, name] = parts[..index]
            && !is_function
            && p.is(name, Kind::Identifier)
            && !matches!(Kind::at(p, before), Kind::AttributeList | Kind::Modifier)
        {
            p.named_below(token - 1);
        }
        match Kind::at(p, *part) {
            Kind::Block if p.is(node, Kind::AccessorDeclaration) => {
                p.open_block(*part, header, Key::Accessor);
            }
            Kind::Block => p.open_block(*part, header, Key::Function),
            Kind::AccessorList => p.open_block(*part, header, Key::Accessor),
            Kind::DeclarationList if p.is(node, Kind::NamespaceDeclaration) => {
                p.open_block_as(*part, header, Key::Namespace, Key::Type);
            }
            Kind::DeclarationList => p.open_block(*part, header, Key::Type),
            Kind::EnumMemberDeclarationList => p.open_values(*part, header, Key::Type),
            Kind::ArrowExpressionClause => arrow(p, node, *part),
            Kind::Equals => {
                let default = p.is(node, Kind::Parameter);
                match parts.get(index + 1) {
                    Some(value) if default => p.sign(*part, *value, Key::Default),
                    Some(value) => assigned(p, token, *value, header),
                    None => {}
                }
            }
            // Whether the sign of an operator stands beside its word, no guide says.
            _ if p.is(parts[index - 1], Kind::Operator) && !p.broken_before(token) => {
                p.keep_gap(token);
            }
            _ => {}
        }
    }
    clauses(p, node, parts);
}

/// The name of a function, behind the type of what it returns or below it.
fn named(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let is_list = |part: &NodeId| {
        matches!(Kind::at(p, *part), Kind::TypeParameterList | Kind::ParameterList)
    };
    let Some(name) = parts.iter().position(is_list).and_then(|list| list.checked_sub(1)) else {
        return;
    };
    let of = name.checked_sub(1).filter(|of| p.is(parts[*of], Kind::ExplicitInterfaceSpecifier));
    let [.., given, name] = parts[..=of.unwrap_or(name)] else { return };
    if !matches!(Kind::at(p, given), Kind::AttributeList | Kind::Modifier) {
        let has_body = parts.iter().any(|part| {
            matches!(Kind::at(p, *part), Kind::Block | Kind::ArrowExpressionClause)
        });
        p.typed(node, p.first(name), has_body);
    }
}

/// Attributes stand on lines of their own, or on that of what they belong to; those of a parameter as
/// they do.
fn attributes(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let kind = match Kind::at(p, node) {
        Kind::ClassDeclaration
        | Kind::StructDeclaration
        | Kind::InterfaceDeclaration
        | Kind::RecordDeclaration
        | Kind::EnumDeclaration
        | Kind::DelegateDeclaration => Some(Key::Type),
        Kind::FieldDeclaration | Kind::EventFieldDeclaration | Kind::EnumMemberDeclaration => {
            Some(Key::Value)
        }
        Kind::Parameter | Kind::AccessorDeclaration => None,
        _ => Some(Key::Function),
    };
    for pair in parts.windows(2) {
        if !p.is(pair[0], Kind::AttributeList) {
            continue;
        }
        let (start, token) = (p.first(node), p.first(pair[1]));
        match kind {
            Some(kind) => p.annotated(start, token, kind),
            None => p.as_it_stands(start, token),
        }
    }
}

/// `=> level;` behind a header, where the line may end before the arrow, too, by hand.
fn arrow(p: &mut Planner, node: NodeId, clause: NodeId) {
    let token = p.first(clause);
    if p.choices.remembers && p.broken_before(token) {
        let group = p.group(Shape::Chain, p.first(node), p.end(clause));
        p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap);
    }
}

/// Breaks before what a header says of other types, where it does not fit.
fn clauses(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let clause = |part: &NodeId| match Kind::at(p, *part) {
        Kind::BaseList | Kind::ConstructorInitializer => Some((*part, Key::Base)),
        Kind::TypeParameterConstraintsClause => Some((*part, Key::Where)),
        _ => None,
    };
    let clauses: Vec<(NodeId, Key)> = parts.iter().filter_map(clause).collect();
    let Some((last, _)) = clauses.last() else { return };
    let brace = p.end(*last);
    // Where they have lines of their own, so do two braces with nothing between them.
    let is_pair = p.end(node) == brace + 2 && p.token_text(brace) == "{";
    let end = if is_pair { brace + 1 } else { brace };
    // Attributes lead it on lines of their own.
    let word = parts.iter().find(|part| !p.is(**part, Kind::AttributeList));
    let begins = word.map_or(p.first(node), |word| p.first(*word));
    let group = p.clauses_of(begins, end, &clauses);
    if is_pair && !p.broken_before(brace + 1) {
        p.may_break(brace, group, 0, 1, Setting::OpenBrace);
    }
}

/// `: Gauge, IAlarm`, `: Gauge(2)`
fn base_list(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.group(Shape::Chain, p.first(node), p.end(node));
    p.group_mut(group).rows = Rows::Any;
    p.stands_anywhere(group, Key::Declaration);
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        match Kind::at(p, *part) {
            Kind::Comma => p.word(token, 0),
            Kind::ArgumentList => p.parens(token, p.choices.call_parens),
            // The first one stays with the colon, unless somebody broke the line there.
            _ if index == 1 && !(p.choices.remembers && p.broken_before(token)) => p.word(token, 1),
            _ => p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap),
        }
    }
}

/// `where T : class, new()`
fn constraints(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.group(Shape::LastResort, p.first(node), p.end(node));
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        match Kind::at(p, *part) {
            Kind::Comma => p.word(token, 0),
            Kind::Colon => p.before_pair_sign(token, Key::Type),
            _ if index < 4 => p.word(token, 1),
            _ => p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap),
        }
        if p.is(*part, Kind::Colon) {
            p.word(token, 1);
        }
    }
}

/// Members between braces; those of a namespace may stand as far in as it does.
fn declaration_list(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let parent = p.parent(node);
    let base = p.first(parent);
    match p.handed_block(node) {
        Some(group) => _ = p.flat_block(parts, group),
        None if stays_empty(p, parts, base) => {}
        None => p.block(parts, base, |p, members, group| {
            let first = members.first().map(|first| p.first(*first));
            let further =
                !p.is(parent, Kind::NamespaceDeclaration) || p.indents_namespace(base, first);
            p.group_mut(group).inner = u8::from(further);
            p.statements(members, group, u8::from(further), sort);
            if !p.is(parent, Kind::NamespaceDeclaration) {
                p.order_members(members, describe);
            }
        }),
    }
}

/// Two braces with nothing between them stay on two lines, or with a blank between them, where somebody
/// put them so. Says whether they do.
pub(super) fn stays_empty(p: &mut Planner, parts: &[NodeId], base: TokenId) -> bool {
    let [_, closer] = parts else { return false };
    let stays = p.stays_empty(parts, base);
    let closer = p.first(*closer);
    match p.gap_text(closer) {
        _ if stays => {}
        "" | " " => p.keep_gap(closer),
        _ => p.flat(closer, 1, Setting::InnerGap),
    }
    true
}

/// `[Obsolete, Tide(2)]`, `[assembly: Tide]`
fn attribute_list(p: &mut Planner, parts: &[NodeId]) {
    p.list(parts, List::new().by_hand().closes_around_one());
    go_on(p, parts);
    for part in parts {
        if p.is(*part, Kind::Colon) {
            p.word(p.first(*part), 0);
        }
    }
}

/// `int level = 2, ebb;`
fn variable_declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.commas(parts);
    let is_declarator = |part: &&NodeId| p.is(**part, Kind::VariableDeclarator);
    let declarators: Vec<NodeId> = parts.iter().filter(is_declarator).copied().collect();
    p.declared_together(node, &declarators);
}

/// `[]`, `[,]`, `[2, 3]`
fn ranks(p: &mut Planner, parts: &[NodeId]) {
    for (index, pair) in parts.windows(2).enumerate() {
        let token = p.first(pair[1]);
        let is_empty = p.is_separator(pair[0]) || p.is(pair[0], Kind::OpenBracket);
        match Kind::at(p, pair[1]) {
            Kind::Comma => p.word(token, 0),
            Kind::CloseBracket if is_empty => p.word(token, 0),
            Kind::CloseBracket => p.inside_bracket(token, p.choices.brackets_gap),
            _ if index == 0 => p.inside_bracket(token, p.choices.brackets_gap),
            _ => p.word(token, 1),
        }
    }
}

/// `int*`; what a grammar reads as one of those, and is an argument without `out`, is a product.
fn pointer(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, star] = parts else { return };
    let (star, around) = (p.first(*star), p.parent(node));
    let is_out = p.first(around).checked_sub(1).is_some_and(|before| p.token_text(before) == "out");
    if p.is(around, Kind::DeclarationExpression) && !is_out && p.end(around) > star + 1 {
        p.operator(star, Key::Product);
        p.operator(star + 1, Key::Product);
    } else {
        p.word(star, 0);
    }
}

/// `delegate* unmanaged[Cdecl]<int, void>`
fn function_pointer(p: &mut Planner, parts: &[NodeId]) {
    for pair in parts.windows(2) {
        let apart = p.is(pair[0], Kind::Comma) || p.is(pair[1], Kind::CallingConvention);
        p.word(p.first(pair[1]), u8::from(apart));
    }
}
