//! Items and what belongs to them, in the grammar's order.

use super::blocks::{block_behind, enclosed_statements, statements};
use super::expressions::assigned;
use super::kinds::Kind;
use crate::layout::plan::{Around, GroupId, Shape, Slight, TreeEdit, When};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Between, Handed, List};
use crate::style::{Key, Setting};
use crate::syntax::NodeId;

/// The rule for an item; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::SourceFile => {
            statements(p, parts, GroupId::ROOT, 0);
        }
        Kind::Attribute => attribute(p, parts),
        Kind::MacroDefinition => macro_definition(p, node, parts),
        Kind::MacroInvocation => macro_invocation(p, parts),
        Kind::TokenTree if !parts.is_empty() => token_tree(p, node, parts),
        // What only a macro can read.
        Kind::TokenTree | Kind::MacroRule => p.keep(node),
        Kind::ModItem | Kind::ForeignModItem => {
            header(p, parts);
            body(p, node, parts, Key::Namespace);
        }
        Kind::ImplItem => {
            header(p, parts);
            body(p, node, parts, Key::Type);
            impl_header(p, node, parts);
        }
        Kind::TraitItem => {
            header(p, parts);
            body(p, node, parts, Key::Type);
            trait_header(p, node, parts);
        }
        Kind::StructItem | Kind::UnionItem | Kind::EnumItem => {
            header(p, parts);
            body(p, node, parts, Key::Type);
        }
        Kind::FunctionItem => {
            header(p, parts);
            body(p, node, parts, Key::Function);
        }
        Kind::FunctionSignatureItem | Kind::AssociatedType => {
            header(p, parts);
            where_clause_of(p, node, parts);
        }
        Kind::ConstItem | Kind::StaticItem | Kind::TypeItem => {
            header(p, parts);
            value(p, parts);
            where_clause_of(p, node, parts);
        }
        Kind::DeclarationList => enclosed_statements(p, parts, p.first(p.parent(node)), 1),
        Kind::EnumVariantList | Kind::FieldDeclarationList => members(p, node, parts),
        Kind::OrderedFieldDeclarationList => ordered_field_declaration_list(p, parts),
        Kind::EnumVariant | Kind::FieldDeclaration => {
            header(p, parts);
            value(p, parts);
        }
        Kind::ExternCrateDeclaration | Kind::UseDeclaration => header(p, parts),
        Kind::VisibilityModifier => visibility_modifier(p, parts),
        Kind::WhereClause => where_clause(p, node, parts),
        Kind::UseList => use_list(p, parts),
        Kind::Parameters => parameters(p, node, parts),
        Kind::SelfParameter => super::types::reference(p, parts),
        Kind::Parameter | Kind::VariadicParameter => header(p, parts),
        _ => return false,
    }
    true
}

/// The words, names and marks of a header: one blank between them, none before what belongs to a
/// name.
pub(super) fn header(p: &mut Planner, parts: &[NodeId]) {
    p.header(parts, |p, before, part| match (Kind::at(p, before), Kind::at(p, part)) {
        (_, Kind::Comma | Kind::Semicolon) => Between::Nothing,
        (_, Kind::Colon) => Between::BeforeColon,
        (Kind::Colon, _) => Between::AfterColon,
        (_, Kind::TypeParameters | Kind::TypeArguments | Kind::TraitBounds) => Between::Nothing,
        (_, Kind::Parameters | Kind::OrderedFieldDeclarationList) => Between::Parameters,
        (_, Kind::Equals) | (Kind::Equals, _) => Between::Sign(Key::Assign),
        (Kind::Bang, _) => Between::Nothing,
        _ => Between::Blank,
    });
}

/// The value behind a header's `=`.
fn value(p: &mut Planner, parts: &[NodeId]) {
    if let Some(sign) = p.position(parts, Kind::Equals)
        && let Some(value) = parts.get(sign + 1)
    {
        assigned(p, parts[sign], *value);
    }
}

/// What stands behind an item's header: its clause of bounds, and its body or its end.
fn body(p: &mut Planner, node: NodeId, parts: &[NodeId], key: Key) {
    let Some(last) = parts.last() else { return };
    let header = p.first(node);
    match Kind::at(p, *last) {
        Kind::Block => block_behind(p, *last, header, key, key),
        Kind::FieldDeclarationList | Kind::EnumVariantList if p.keeps_flat(*last, Key::Type) => {
            p.flat(p.first(*last), 1, Setting::OpenBrace);
        }
        Kind::FieldDeclarationList | Kind::EnumVariantList | Kind::DeclarationList => {
            p.open_brace(p.first(*last), header, key);
        }
        _ => {}
    }
    where_clause_of(p, node, parts);
}

/// The body behind an item's clause of bounds, if it has one.
fn body_behind(p: &Planner, parts: &[NodeId], clause: usize) -> Option<NodeId> {
    let body = parts.get(clause + 1).copied();
    body.filter(|body| p.token_text(p.first(*body)) == "{")
}

/// The clause of bounds of an item is on lines of its own, and so is the brace behind it. In front
/// of an empty body all of it may stand on the header's line.
fn where_clause_of(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(place) = p.position(parts, Kind::WhereClause) else { return };
    let (header, clause) = (p.first(node), parts[place]);
    let body = body_behind(p, parts, place);
    let empty = body.filter(|body| p.end(*body) == p.first(*body) + 2);
    let end = match (empty, body) {
        (Some(body), _) => p.end(body),
        (None, Some(body)) => p.first(body) + 1,
        (None, None) => p.end(clause),
    };
    let group = p.group(Shape::List, header, end);
    p.group_mut(group).around = Around::OneLine;
    if !stays_behind_parameters(p, parts, place) {
        p.may_break(p.first(clause), group, 0, 1, Setting::WordGap);
    }
    if let Some(body) = body {
        p.may_break(p.first(body), group, 0, 1, Setting::OpenBrace);
    }
    match empty {
        Some(body) => p.may_break(p.end(body) - 1, group, 0, 0, Setting::InnerGap),
        None => p.force(group),
    }
    p.hand(clause, Handed::Lines(group));
}

/// Whether somebody has left the word `where` behind parameters that have lines of their own.
fn stays_behind_parameters(p: &Planner, parts: &[NodeId], clause: usize) -> bool {
    let Some(before) = parts[..clause].last() else { return false };
    let word = p.first(parts[clause]);
    p.choices.remembers
        && p.is(*before, Kind::Parameters)
        && p.broken_before(word - 1)
        && !p.broken_before(word)
}

/// `where Level: Ord, Gauge: Copy,`
fn where_clause(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let (Some(group), Some((_, predicates))) = (p.handed_lines(node), parts.split_first()) else {
        return;
    };
    for part in predicates {
        match p.is(*part, Kind::Comma) {
            true => p.word(p.first(*part), 0),
            false => p.may_break(p.first(*part), group, 1, 1, Setting::WordGap),
        }
    }
    let siblings = p.parts(p.parent(node));
    let place = siblings.iter().position(|part| *part == node);
    let has_body = place.is_some_and(|place| body_behind(p, &siblings, place).is_some());
    if has_body {
        last_comma(p, predicates, group);
    }
}

/// The comma behind the last of several elements that have no closing bracket.
fn last_comma(p: &mut Planner, elements: &[NodeId], group: GroupId) {
    let Some(&last) = elements.last() else { return };
    if p.is(last, Kind::Comma) {
        let change = match p.choices.drop_last_comma {
            true => TreeEdit::Remove(When::Always),
            false => TreeEdit::Remove(When::Flat(group)),
        };
        p.rewrite(p.first(last), change, Setting::LastComma);
    } else if p.choices.add_last_comma
        && let Some(token) = p.tree.last_solid(last)
    {
        p.rewrite(token, TreeEdit::Insert(",", When::Open(group)), Setting::LastComma);
    }
}

/// `impl<T> Ebb<T> for Gauge<T> {`: broken before `for`, or else behind the parameters, and then
/// before the brace.
fn impl_header(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let header = p.first(node);
    let parameters = p.position(parts, Kind::TypeParameters);
    let word = p.position(parts, Kind::For);
    let bound = parameters.map_or(1, |place| place + 1);
    let Some(&last) = parts.get(word.map_or(bound, |place| place + 1)) else { return };
    let brace = opening_brace(p, parts);
    let (first, end) = (p.first(parts[bound]), p.end(last));
    let mut tail = None;
    if let Some(place) = word {
        let group = p.group(Shape::Chain, first, end);
        p.stem(group, header);
        p.group_mut(group).slight = Slight::Half;
        p.may_break(p.first(parts[place]), group, 1, 1, Setting::WordGap);
        tail = Some(group);
    }
    if parameters.is_some() {
        let group = p.group(Shape::LastResort, header, end);
        p.group_mut(group).tail = tail.replace(group);
        p.may_break(first, group, 1, 1, Setting::WordGap);
    }
    if let Some(body) = brace {
        super::blocks::behind(p, p.first(body), header, tail, Setting::OpenBrace);
    }
}

/// The body whose brace stands behind a header, where the canon has it there and no clause has
/// put it on its own line.
fn opening_brace(p: &mut Planner, parts: &[NodeId]) -> Option<NodeId> {
    let body = *parts.last()?;
    let brace = p.first(body);
    let stays = p.token_text(brace) == "{" && !p.is_breakable(brace) && p.end(body) > brace + 2;
    (stays && p.style.is(Setting::OpenBrace, Key::Type, "same_line")).then_some(body)
}

/// `trait Tide: Ebb + Flood {`: broken behind the colon, and then before the brace.
fn trait_header(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(place) = p.position(parts, Kind::TraitBounds) else { return };
    let bounds = parts[place];
    let brace = opening_brace(p, &parts[place..]);
    let group = p.group(Shape::List, p.first(bounds), p.end(bounds));
    p.stem(group, p.first(node));
    if let Some(body) = brace {
        super::blocks::behind(p, p.first(body), p.first(node), Some(group), Setting::OpenBrace);
    }
    p.hand(bounds, Handed::Lines(group));
}

/// `pub(in crate::tide)`
fn visibility_modifier(p: &mut Planner, parts: &[NodeId]) {
    p.header(parts, |p, before, part| match (Kind::at(p, before), Kind::at(p, part)) {
        (Kind::OpenParen, _) | (_, Kind::CloseParen) => Between::Inside,
        (Kind::In, _) => Between::Blank,
        _ => Between::Nothing,
    });
}

/// `derive(Clone, Copy)`, `path = "tide.rs"`
fn attribute(p: &mut Planner, parts: &[NodeId]) {
    match parts {
        [_, sign, value] => {
            p.sign(*sign, *value, Key::Assign);
        }
        _ => p.tight(parts),
    }
}

/// `macro_rules! ebb { (…) => {…}; }`: each rule on its line, kept as it stands.
fn macro_definition(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(opener) = p.position(parts, Kind::OpenBrace) else {
        // Between other brackets, all of it stays as it stands.
        return;
    };
    p.words(&parts[..=opener]);
    p.block(&parts[opener..], p.first(node), |p, rules, group| {
        for part in rules {
            match p.is(*part, Kind::Semicolon) {
                true => p.word(p.first(*part), 0),
                false => p.line(p.first(*part), group, 1, Setting::FlatBlock),
            }
        }
    });
}

/// `warn!(level)`, `tides! { … }`
fn macro_invocation(p: &mut Planner, parts: &[NodeId]) {
    p.tight(parts);
    let Some(arguments) = parts.last() else { return };
    let token = p.first(*arguments);
    if p.token_text(token).starts_with('{') {
        p.word(token, 1);
    }
}

/// What stands between a macro's brackets, as far as it is expressions or items.
fn token_tree(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    match Kind::at(p, parts[0]) {
        Kind::OpenBrace => {
            let level = u8::from(!stands_beside(p, node, parts[1]));
            enclosed_statements(p, parts, p.first(p.parent(node)), level);
        }
        Kind::OpenBracket => super::expressions::array_expression(p, parts),
        _ => super::expressions::arguments(p, node, parts),
    }
}

/// Whether somebody has set the items in a macro's braces no further in than the macro itself.
fn stands_beside(p: &Planner, braces: NodeId, item: NodeId) -> bool {
    let (own, item) = (p.first(p.parent(braces)), p.first(item));
    p.choices.remembers && p.broken_before(item) && p.line_indent(own) == p.line_indent(item)
}

/// An element of a list, with the attributes before it: each on a line of its own, or, where a
/// list may stand on one line, on the line of what it belongs to as it stands.
pub(super) fn attributes(p: &mut Planner, parts: &[NodeId], group: Option<GroupId>) {
    for pair in parts.windows(2) {
        let token = p.first(pair[1]);
        if !p.is(pair[0], Kind::AttributeItem) {
            continue;
        }
        match group {
            Some(group) => p.may_break(token, group, 1, 1, Setting::WordGap),
            None => p.as_it_stands(p.first(pair[0]), token),
        }
    }
}

/// `{ Ebb, Flood(Level) }`, `{ level: Level, gauge: Gauge }`: one a line; the fields of a variant
/// may stand on its line.
fn members(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let list = List::new().members().last_comma().opens_around_lines();
    let Some(group) = p.list(parts, list) else { return };
    attributes(p, parts, Some(group));
    let may_join = p.is(p.parent(node), Kind::EnumVariant) || p.keeps_flat(node, Key::Type);
    if parts.len() > 2 && !may_join {
        p.force(group);
    }
}

/// `(pub Level, Gauge)`
fn ordered_field_declaration_list(p: &mut Planner, parts: &[NodeId]) {
    p.words(&parts[..parts.len() - 1]);
    p.list(parts, List::new().collection().last_comma());
    attributes(p, parts, None);
}

/// `{ebb, flood::{self, High}}`; the names keep their order.
fn use_list(p: &mut Planner, parts: &[NodeId]) {
    p.list(parts, List::new().collection().names().last_comma().tight().shared_rows());
}

/// `(&self, level: Level)`
fn parameters(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let list = List::new().declaration().last_comma();
    let of_type = p.is(p.parent(node), Kind::FunctionType);
    p.list(parts, if of_type { list.reluctant().by_hand() } else { list });
    attributes(p, parts, None);
}
