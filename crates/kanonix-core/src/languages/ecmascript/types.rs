//! Types, signatures and what only TypeScript declares, in the grammar's order.

use super::expressions::is_column_of_functions;
use super::kinds::Kind;
use super::statements::{sort, statement_end};
use crate::layout::plan::{Around, Shape, Slight};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Between, Handed, List};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for a type; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::ArrayType | Kind::LookupType => lookup(p, parts),
        Kind::ImportRequireClause | Kind::ImportAlias => import_alias(p, node, kind, parts),
        Kind::AmbientDeclaration | Kind::Module | Kind::InternalModule => module(p, parts),
        Kind::InterfaceDeclaration => interface_declaration(p, node, parts),
        Kind::InterfaceBody => interface_body(p, node, parts),
        Kind::EnumDeclaration => enum_declaration(p, node, parts),
        Kind::EnumBody => {
            p.list(parts, List::new().members().last_comma().opens_around_lines());
        }
        Kind::TypeAliasDeclaration => type_alias_declaration(p, node, parts),
        Kind::FunctionSignature => {
            signature(p, parts);
            statement_end(p, node, parts);
        }
        Kind::MethodSignature
        | Kind::AbstractMethodSignature
        | Kind::PropertySignature
        | Kind::CallSignature
        | Kind::ConstructSignature
        | Kind::MappedTypeClause
        | Kind::TypeParameter => signature(p, parts),
        Kind::IndexSignature => index_signature(p, parts),
        Kind::RequiredParameter | Kind::OptionalParameter | Kind::EnumAssignment => {
            declared(p, parts);
        }
        Kind::TypeAnnotation
        | Kind::OmittingTypeAnnotation
        | Kind::AddingTypeAnnotation
        | Kind::OptingTypeAnnotation
        | Kind::AssertsAnnotation
        | Kind::TypePredicateAnnotation => annotation(p, parts),
        Kind::DefaultType => {
            if let [_, value] = parts {
                p.operator(p.first(*value), Key::Default);
            }
        }
        Kind::TypeParameters | Kind::TypeArguments => {
            let list = List::new();
            let follow: Vec<NodeId> = p.elements(parts).into_iter().skip(1).collect();
            let has_bars = follow.into_iter().any(|element| leads_with_bar(p, element));
            p.list(parts, match kind {
                Kind::TypeArguments => list.reluctant().opens_around_lines_if(has_bars),
                _ => list,
            });
            // `dual< <T>(level: T) => T>`: two of these marks that touch are another one.
            if let [_, first, _, ..] = parts
                && p.token_text(p.first(*first)) == "<"
            {
                p.set_apart(p.first(*first));
            }
        }
        Kind::ObjectType => object_type(p, parts),
        // `[level: number, unit?: string]`
        Kind::TupleType => _ = p.list(parts, List::new().collection().last_comma()),
        Kind::UnionType | Kind::IntersectionType => alternatives(p, node, kind, parts),
        Kind::FunctionType | Kind::ConstructorType => function_type(p, parts),
        Kind::ConditionalType => conditional_type(p, node, parts),
        Kind::ParenthesizedType => parenthesized_type(p, parts),
        _ => return false,
    }
    true
}

/// What is before a part of a signature: nothing before what belongs to the name before it.
fn between(p: &Planner, before: NodeId, part: NodeId) -> Between {
    match (Kind::at(p, before), Kind::at(p, part)) {
        (Kind::Question | Kind::Bang, _) if is_annotation(Kind::at(p, part)) => Between::Nothing,
        (_, Kind::DefaultType) => Between::Sign(Key::Default),
        (_, Kind::Equals) => Between::Sign(Key::Assign),
        (Kind::New, Kind::FormalParameters) => Between::Blank,
        (Kind::TypeParameters, Kind::FormalParameters) => Between::Nothing,
        (_, Kind::FormalParameters) => Between::Parameters,
        (Kind::New | Kind::Function | Kind::Async, Kind::TypeParameters) => Between::Blank,
        (_, Kind::TypeParameters | Kind::TypeArguments) => Between::Nothing,
        (_, kind) if is_annotation(kind) => Between::BeforeColon,
        (_, Kind::Question | Kind::Bang | Kind::Colon | Kind::Comma | Kind::Semicolon)
        | (Kind::Star, _) => Between::Nothing,
        _ => Between::Blank,
    }
}

/// Whether a kind begins with the sign behind a name.
fn is_annotation(kind: Kind) -> bool {
    matches!(
        kind,
        Kind::TypeAnnotation
            | Kind::OmittingTypeAnnotation
            | Kind::AddingTypeAnnotation
            | Kind::OptingTypeAnnotation
            | Kind::AssertsAnnotation
            | Kind::TypePredicateAnnotation
    )
}

/// A name with its modifiers, parameters and annotations: `readonly level?: number`.
pub(super) fn signature(p: &mut Planner, parts: &[NodeId]) {
    p.header(parts, between);
}

/// A name with its annotation and its value: `level: number = 2`.
pub(super) fn declared(p: &mut Planner, parts: &[NodeId]) {
    signature(p, parts);
    if let [.., sign, value] = parts
        && p.is(*sign, Kind::Equals)
    {
        assigned(p, p.first(*sign), *value);
        // Names with defaults have a line each before their value has one of its own.
        let has_defaults =
            |part: &NodeId| p.elements(&p.parts(*part)).iter().any(|name| is_default(p, *name));
        if p.is(parts[0], Kind::ObjectPattern) && has_defaults(&parts[0]) {
            p.assigned_last(*value);
        }
    }
}

/// Whether a name in a pattern brings its default: `low = 0`.
fn is_default(p: &Planner, name: NodeId) -> bool {
    matches!(Kind::at(p, name), Kind::ObjectAssignmentPattern | Kind::AssignmentPattern)
}

/// A value or a type after its `=`. Alternatives with a bar before the first of them open together
/// with the line after the sign.
pub(super) fn assigned(p: &mut Planner, sign: TokenId, value: NodeId) {
    p.operator(sign, Key::Assign);
    let gap = p.beside(p.first(value), Key::Assign);
    if leads_with_bar(p, value) {
        bars(p, sign, value, gap, Setting::OperatorGap);
    } else {
        p.assigned(sign, value, gap, Setting::OperatorGap);
        if is_column_of_functions(p, value)
            && let Some(group) = p.gap(p.first(value)).group
        {
            p.group_mut(group).closes = false;
        }
    }
}

/// `: number`
fn annotation(p: &mut Planner, parts: &[NodeId]) {
    let [colon, value] = parts else { return p.words(parts) };
    if leads_with_bar(p, *value) {
        bars(p, p.first(*colon), *value, 1, Setting::PairGap);
    } else {
        p.after_pair_sign(p.first(*value), Key::Type);
    }
}

/// Whether alternatives begin with a bar that has nothing before it.
pub(super) fn leads_with_bar(p: &Planner, mut node: NodeId) -> bool {
    let kind = Kind::at(p, node);
    while matches!(kind, Kind::UnionType | Kind::IntersectionType) && p.is(node, kind) {
        match p.parts(node)[..] {
            [_, _] => return true,
            [left, _, _] => node = left,
            _ => return false,
        }
    }
    false
}

/// Whether alternatives are what the language takes for such, although the grammar does: all of them are
/// what `new () => Ebb | Flood` makes, and `readonly Ebb[] | Flood` is the first of them alone. With a bar
/// before it neither is a type.
fn may_lead_with_bar(p: &Planner, node: NodeId) -> bool {
    !p.is(p.parent(node), Kind::ReadonlyType)
        && !matches!(p.token_text(p.first(node)), "new" | "abstract")
}

/// A chain that opens after `sign`, for alternatives that all have a bar: whoever writes the first one
/// has them stand beneath each other.
fn bars(p: &mut Planner, sign: TokenId, value: NodeId, blanks: u8, setting: Setting) {
    let group = p.group(Shape::Chain, sign, p.end(value));
    p.group_mut(group).around = Around::OneLine;
    p.may_break(p.first(value), group, 1, blanks, setting);
    let several = p.parts(value).len() > 2;
    p.group_mut(group).force_if(several);
    p.hand(value, Handed::Chain(group));
}

/// `Ebb | Flood`: one a line, each behind its bar, once they do not fit.
fn alternatives(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) {
    let group = match p.handed_chain(node) {
        Some(group) => group,
        // A bar before the first of them stands on the line of what is before it; behind another element
        // of a list they are as far in as that.
        None if leads_with_bar(p, node) && p.first(node) > 0 => {
            let (first, follows) = (p.first(node), follows_type(p, node));
            let group = p.group(Shape::Chain, first - u32::from(!follows), p.end(node));
            p.group_mut(group).around = Around::OneLine;
            if !follows {
                let blanks = p.gap(first).blanks;
                p.alternative(first, group, 1, blanks);
            }
            p.group_mut(group).force_if(parts.len() > 2);
            group
        }
        None => {
            let group = p.group(Shape::Chain, p.first(node), p.end(node));
            let stand_in = stand_in(p, kind, parts);
            let first = p.first(node);
            let is_given_back = first > 1
                && p.is(p.parent(node), Kind::TypeAnnotation)
                && p.token_text(first - 2) == ")";
            let own = p.group_mut(group);
            (own.stand_in, own.slight, own.reluctant) = (stand_in, Slight::Usual, is_given_back);
            if p.choices.add_bar && kind == Kind::UnionType && may_lead_with_bar(p, node) {
                let mut first = node;
                while let Some(left) = p.part(first, 0).filter(|_| p.is(first, kind)) {
                    first = left;
                }
                p.lead((first, group), "|", kind, Setting::LeadingBar);
            }
            group
        }
    };
    let (bar, last) = match parts {
        [left, bar, last] => {
            if p.is(*left, kind) {
                p.hand(*left, Handed::Chain(group));
            }
            (p.first(*bar), p.first(*last))
        }
        [_, last] => {
            if kind == Kind::UnionType {
                p.sets_apart(p.first(node), p.choices.union_steps);
            }
            return p.flat(p.first(*last), 1, Setting::OperatorGap);
        }
        _ => return,
    };
    let leads = p.choices.operator_leads.unwrap_or(p.broken_before(bar));
    // The members of the last type stay behind its bracket where somebody opened them there.
    let opens_behind = p.choices.remembers && !p.broken_before(last) && !p.broken_before(bar);
    if opens_behind && stand_in(p, kind, parts).is_some() && p.is_spread(parts[2]) {
        p.operator(bar, Key::Shift);
        return p.operator(last, Key::Shift);
    }
    let before = kind == Kind::UnionType || leads || leads_with_bar(p, node);
    let (broken, other) = if before { (bar, last) } else { (last, bar) };
    let gap = p.beside(broken, Key::Shift);
    let begin = p.group_mut(group).first;
    let level = u8::from(!matches!(p.token_text(begin), "|" | "&"));
    p.alternative(broken, group, level, gap);
    if before && kind == Kind::UnionType {
        p.sets_apart(bar, p.choices.union_steps);
    }
    p.operator(other, Key::Shift);
}

/// Whether a type stands behind another one in angle brackets.
fn follows_type(p: &Planner, node: NodeId) -> bool {
    let (list, first) = (p.parent(node), p.first(node));
    p.is(list, Kind::TypeArguments) && p.token_text(first - 1) == ","
}

/// `Level & { unit: string }`: the last one's members open in the chain's place.
fn stand_in(p: &Planner, kind: Kind, parts: &[NodeId]) -> Option<TokenId> {
    match parts {
        [.., last] if kind == Kind::IntersectionType && p.is(*last, Kind::ObjectType) => {
            Some(p.first(*last) + 1)
        }
        _ => None,
    }
}

/// `T[]`, `T["level"]`: a bracket on the next line begins a statement of its own.
fn lookup(p: &mut Planner, parts: &[NodeId]) {
    p.tight(parts);
    if let [_, bracket, ..] = parts
        && p.broken_before(p.first(*bracket))
    {
        p.keep_gap(p.first(*bracket));
    }
    if let [_, _, inner, closer] = parts {
        for part in [inner, closer] {
            p.inside_bracket(p.first(*part), p.choices.brackets_gap);
        }
    }
}

/// `import tide = require("tide")`, `import ebb = tide.ebb`
fn import_alias(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) {
    p.header(parts, |p, before, part| match (Kind::at(p, before), Kind::at(p, part)) {
        (Kind::OpenParen, _) | (_, Kind::OpenParen | Kind::CloseParen) => Between::Nothing,
        (Kind::Equals, _) | (_, Kind::Equals) => Between::Sign(Key::Assign),
        _ => Between::Blank,
    });
    if kind == Kind::ImportAlias {
        statement_end(p, node, parts);
    }
}

/// `declare global { … }`, `namespace tides { … }`: a line break before the brace would end the
/// statement.
fn module(p: &mut Planner, parts: &[NodeId]) {
    p.words(parts);
    if let [.., block] = parts
        && p.is(*block, Kind::StatementBlock)
    {
        // On the next line the grammar would read it as a block after a module without one.
        p.flat(p.first(*block), 1, Setting::OpenBrace);
    }
}

fn interface_declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some((body, head)) = parts.split_last() else { return };
    signature(p, head);
    super::classes::heritage(p, node, head);
    p.open_brace(p.first(*body), p.first(node), Key::Type);
}

/// The members of an interface, each on its line.
fn interface_body(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.block(parts, p.first(p.parent(node)), |p, inner, group| {
        let members: Vec<NodeId> =
            inner.iter().copied().filter(|part| !p.is_separator(*part)).collect();
        p.statements(&members, group, 1, sort);
        for part in inner {
            if p.is_separator(*part) {
                p.flat(p.first(*part), 0, Setting::StatementEnd);
            }
        }
    });
}

fn enum_declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    if let [.., body] = parts {
        p.open_brace(p.first(*body), p.first(node), Key::Type);
    }
}

/// `type Level = Ebb | Flood`
fn type_alias_declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    signature(p, parts);
    if let Some(sign) = p.position(parts, Kind::Equals)
        && let Some(value) = parts.get(sign + 1)
    {
        assigned(p, p.first(parts[sign]), *value);
    }
    statement_end(p, node, parts);
}

/// `[gauge: string]: number`, `readonly [Key in keyof T]?: T[Key]`
fn index_signature(p: &mut Planner, parts: &[NodeId]) {
    p.header(parts, |p, before, part| match p.token_text(p.first(part)) {
        "]" => Between::Inside,
        _ if p.is(before, Kind::OpenBracket) => Between::Inside,
        "readonly" => Between::Nothing,
        _ => between(p, before, part),
    });
}

/// `{ level: number; unit: string }`: its members may end with a comma, a semicolon or their line.
fn object_type(p: &mut Planner, parts: &[NodeId]) {
    let group = p.list(parts, List::new().members().opens_around_lines());
    let (Some(group), Some((_, rest))) = (group, parts.split_first()) else { return };
    for pair in rest[..rest.len().saturating_sub(1)].windows(2) {
        if !p.is_separator(pair[0]) && !p.is_separator(pair[1]) {
            p.may_break(p.first(pair[1]), group, 1, 1, Setting::WordGap);
            // Only their lines keep them apart.
            p.force(group);
            p.group_mut(group).one_each = true;
        }
    }
}

/// `(level: number) => string`
fn function_type(p: &mut Planner, parts: &[NodeId]) {
    p.header(parts, |p, before, _| match p.is(before, Kind::TypeParameters) {
        true => Between::Nothing,
        false => Between::Blank,
    });
}

/// `T extends Level ? Ebb : Flood`; a chain of them is broken together.
fn conditional_type(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    let [_, _, _, question, yes, colon, no] = parts else { return };
    let group = p.conditional(node, &[(*question, *yes), (*colon, *no)], None, 1);
    let colon = p.first(*colon);
    if p.is(*no, Kind::ConditionalType) && !super::expressions::stands_deeper(p, *no, colon) {
        p.hand(*no, Handed::Chain(group));
    }
}

/// `(Ebb | Flood)`; broken inside its parentheses.
fn parenthesized_type(p: &mut Planner, parts: &[NodeId]) {
    let [opener, inner, closer] = parts else { return };
    let group = p.enclosed(
        Shape::Chain,
        [*opener, *inner, *closer],
        p.choices.parens_gap,
        Key::Condition,
    );
    p.group_mut(group).stand_in = match Kind::at(p, *inner) {
        Kind::ObjectType | Kind::FunctionType => Some(p.first(*inner) + 1),
        _ => None,
    };
}
