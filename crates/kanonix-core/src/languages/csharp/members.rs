//! What the members of a type are, as far as their order is agreed.

use super::kinds::Kind;
use crate::layout::plan::Worth;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::Described;
use crate::syntax::{NodeId, TokenId};

/// A member of a class, a structure, an interface or a record.
pub(super) fn describe(p: &Planner, node: NodeId) -> Option<Described> {
    let parts = p.parts(node);
    let kind = Kind::at(p, node);
    let modifiers: Vec<&str> = parts
        .iter()
        .filter(|part| p.is(**part, Kind::Modifier))
        .map(|part| p.token_text(p.first(*part)))
        .collect();
    let has = |word: &str| modifiers.contains(&word);
    let home = p.parent(p.parent(node));
    let is_static = has("static") || has("const");
    let is_constant = has("const") || (has("static") && has("readonly"));
    let mut words = vec![match kind {
        Kind::FieldDeclaration if is_constant => "constant",
        Kind::FieldDeclaration => "field",
        Kind::EventFieldDeclaration | Kind::EventDeclaration => "event",
        Kind::ConstructorDeclaration => "constructor",
        Kind::DestructorDeclaration => "finalizer",
        Kind::DelegateDeclaration => "delegate",
        Kind::PropertyDeclaration => "property",
        Kind::IndexerDeclaration => "indexer",
        Kind::OperatorDeclaration | Kind::ConversionOperatorDeclaration => "operator",
        Kind::MethodDeclaration => "method",
        Kind::ClassDeclaration
        | Kind::StructDeclaration
        | Kind::InterfaceDeclaration
        | Kind::RecordDeclaration
        | Kind::EnumDeclaration => "type",
        _ => return None,
    }];
    let of_interface = p.is(home, Kind::InterfaceDeclaration);
    // An interface that is marked may be somebody else's, who counts its members.
    if of_interface && p.parts(home).iter().any(|part| p.is(*part, Kind::AttributeList)) {
        return None;
    }
    let seen = ["public", "protected", "internal", "private"].into_iter();
    words.extend(seen.filter(|word| has(word)));
    if words.len() == 1 {
        words.push(if of_interface { "public" } else { "private" });
    }
    words.push(if is_static { "static" } else { "instance" });
    let declared: Vec<NodeId> = parts
        .iter()
        .filter(|part| p.is(**part, Kind::VariableDeclaration))
        .flat_map(|part| p.parts(*part))
        .filter(|part| p.is(*part, Kind::VariableDeclarator))
        .collect();
    let names: Vec<TokenId> = match declared.is_empty() {
        true => name(p, &parts).into_iter().collect(),
        false => declared.iter().map(|part| p.first(*part)).collect(),
    };
    let values: Vec<NodeId> = match kind {
        Kind::PropertyDeclaration => value(p, node).into_iter().collect(),
        _ => declared.iter().filter_map(|part| value(p, *part)).collect(),
    };
    let worth = match p.worth(&values, is_plain) {
        Worth::Nothing if lies(p, node, home) && !is_static => Worth::Place,
        _ if lies(p, node, home) && !is_static => Worth::Runs,
        Worth::Plain if has("const") => Worth::Known,
        worth => worth,
    };
    let value = values.iter().map(|value| p.first(*value)..p.end(*value)).collect();
    Some(Described { words, names, worth, value })
}

/// Whether a member takes room in an object whose members may have to lie in their order.
fn lies(p: &Planner, node: NodeId, home: NodeId) -> bool {
    let takes_room = match Kind::at(p, node) {
        Kind::FieldDeclaration | Kind::EventFieldDeclaration => true,
        Kind::PropertyDeclaration => {
            p.parts(node).iter().any(|part| p.is(*part, Kind::AccessorList))
        }
        _ => false,
    };
    let is_marked = p.parts(home).iter().any(|part| p.is(*part, Kind::AttributeList));
    let parts = p.parts(home);
    let is_structure = p.is(home, Kind::StructDeclaration)
        || parts.iter().any(|part| p.token_text(p.first(*part)) == "struct");
    takes_room && (is_structure || is_marked)
}

/// The last name before what a member does or holds.
fn name(p: &Planner, parts: &[NodeId]) -> Option<TokenId> {
    let ends = |part: &&NodeId| {
        !matches!(
            Kind::at(p, **part),
            Kind::ParameterList
                | Kind::BracketedParameterList
                | Kind::TypeParameterList
                | Kind::AccessorList
                | Kind::ArrowExpressionClause
                | Kind::DeclarationList
                | Kind::Equals
        )
    };
    let named = parts.iter().take_while(ends).filter(|part| p.is(**part, Kind::Identifier));
    named.last().map(|name| p.first(*name))
}

/// `2` of `level = 2`
fn value(p: &Planner, node: NodeId) -> Option<NodeId> {
    let parts = p.parts(node);
    parts.windows(2).find(|pair| p.is(pair[0], Kind::Equals)).map(|pair| pair[1])
}

/// Whether nothing has to run for what a construct says, beside what is in it. What another type
/// holds may have to come to life first.
fn is_plain(p: &Planner, node: NodeId) -> bool {
    match Kind::at(p, node) {
        Kind::BinaryExpression
        | Kind::PrefixUnaryExpression
        | Kind::ParenthesizedExpression
        | Kind::ConditionalExpression
        | Kind::InitializerExpression => true,
        Kind::InterpolatedStringExpression => false,
        _ => p.parts(node).is_empty(),
    }
}
