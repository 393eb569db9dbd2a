//! Types, bounds and paths, in the grammar's order.

use super::expressions::tuple;
use super::items::{attributes, header};
use super::kinds::Kind;
use crate::layout::plan::{Counts, GroupId, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Between, Handed, List};
use crate::style::{Key, Setting};
use crate::syntax::NodeId;

/// The rule for a type; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::TraitBounds => trait_bounds(p, node, parts),
        Kind::HigherRankedTraitBound | Kind::AbstractType | Kind::FunctionType => {
            header(p, parts);
            function_type(p, parts);
        }
        Kind::ConstParameter
        | Kind::TypeParameter
        | Kind::LifetimeParameter
        | Kind::TypeBinding => header(p, parts),
        Kind::TypeParameters | Kind::TypeArguments => angles(p, node, kind, parts),
        Kind::ForLifetimes | Kind::UseBounds | Kind::BracketedType => inner_angles(p, parts),
        // `[Level; 24]`
        Kind::ArrayType => _ = p.list(parts, List::new()),
        Kind::TupleType => {
            tuple(p, parts, List::new().by_hand());
        }
        Kind::UnitType => {
            p.list(parts, List::new());
        }
        Kind::BoundedType => bounded_type(p, node, parts),
        Kind::ReferenceType => reference(p, parts),
        Kind::PointerType => {
            p.words(parts);
            if let [_, kind, ..] = parts {
                p.word(p.first(*kind), 0);
            }
        }
        _ => return false,
    }
    true
}

/// `&'tide mut Gauge`: nothing behind the mark, one blank between the words.
pub(super) fn reference(p: &mut Planner, parts: &[NodeId]) {
    p.header(parts, |p, before, _| match p.is(before, Kind::Ampersand) {
        true => Between::Nothing,
        false => Between::Blank,
    });
}

/// `: Ebb + Flood`
fn trait_bounds(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, first, rest @ ..] = parts else { return };
    match p.handed_lines(node) {
        Some(group) => p.may_break(p.first(*first), group, 1, 1, Setting::WordGap),
        None => p.word(p.first(*first), 1),
    }
    if let [.., last] = rest {
        let group = p.group(Shape::Chain, p.first(*first), p.end(*last));
        if p.handed_lines(node).is_some() {
            p.group_mut(group).counts = Counts::Leading(0);
        }
        sum(p, group, rest);
    }
}

/// `+ Flood + 'static`, behind the first of several bounds.
fn sum(p: &mut Planner, group: GroupId, rest: &[NodeId]) {
    let trails = |pair: &[NodeId]| {
        p.is(pair[0], Kind::Plus) && p.broken_before(p.first(pair[1]))
    };
    let leads = p.choices.operator_leads.unwrap_or(!rest.windows(2).any(trails));
    for part in rest {
        let token = p.first(*part);
        let breaks = p.is(*part, Kind::Plus) == leads;
        match breaks {
            true => {
                let blanks = p.beside(token, Key::Sum);
                p.may_break(token, group, 1, blanks, Setting::OperatorGap);
            }
            false => p.operator(token, Key::Sum),
        }
    }
}

/// `Ebb + Send + 'static`
fn bounded_type(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, rest @ ..] = parts else { return };
    let group = p.chain_of(node);
    p.group_mut(group).reluctant = true;
    if p.is(*left, Kind::BoundedType) {
        p.hand(*left, Handed::Chain(group));
    }
    sum(p, group, rest);
}

/// `Fn(Level) -> bool`, `for<'tide> fn(&'tide Level)`: nothing before the parentheses.
fn function_type(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        if p.is(*part, Kind::Parameters) {
            p.word(p.first(*part), 0);
        }
    }
}

/// `<'tide, T: Ebb, const N: usize>`, `<Level, Unit = Metre>`
fn angles(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) {
    // What stands before them on the line opens, and arguments by hand alone.
    let is_arguments = kind == Kind::TypeArguments;
    let list = List::new().reluctant().by_hand_if(is_arguments).last_comma_if(!is_arguments);
    let group = p.list(parts, list);
    attributes(p, parts, None);
    for part in parts {
        if p.is(*part, Kind::TraitBounds) {
            p.word(p.first(*part), 0);
        }
    }
    let outer = p.parent(p.parent(node));
    if group.is_some() && p.is(outer, Kind::TraitBounds) && p.part(outer, 2).is_some() {
        // Further bounds follow, a step further in than the line on which these begin.
        for part in parts {
            let gap = p.gap(p.first(*part));
            gap.level += u8::from(gap.group == group);
        }
    }
}

/// `<Gauge as Tide>`, `for<'tide>`, `use<'tide, T>`
fn inner_angles(p: &mut Planner, parts: &[NodeId]) {
    p.commas(parts);
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        if p.is(*part, Kind::OpenAngle) {
            p.word(token, 0);
        } else if p.is(parts[index - 1], Kind::OpenAngle) || index + 1 == parts.len() {
            p.inside_bracket(token, p.choices.angles_gap);
        }
    }
}
