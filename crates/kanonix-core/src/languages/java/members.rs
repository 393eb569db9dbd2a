//! What the members of a type are, as far as their order is agreed.

use super::kinds::Kind;
use crate::layout::plan::Worth;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::Described;
use crate::syntax::NodeId;

/// A member of a class, an interface, an enumeration or a record.
pub(super) fn describe(p: &Planner, node: NodeId) -> Option<Described> {
    let parts = p.parts(node);
    let kind = Kind::at(p, node);
    let modifiers: Vec<&str> = match parts.first() {
        Some(first) if p.is(*first, Kind::Modifiers) => {
            p.parts(*first).iter().map(|part| p.token_text(p.first(*part))).collect()
        }
        _ => Vec::new(),
    };
    let has = |word: &str| modifiers.contains(&word);
    let of_interface =
        matches!(Kind::at(p, p.parent(node)), Kind::InterfaceBody | Kind::AnnotationTypeBody);
    let is_field = matches!(kind, Kind::FieldDeclaration | Kind::ConstantDeclaration);
    let is_static = has("static") || kind == Kind::StaticInitializer || (of_interface && is_field);
    let is_final = has("final") || of_interface;
    let mut words = vec![match kind {
        _ if is_field && is_static && is_final => "constant",
        _ if is_field => "field",
        Kind::StaticInitializer | Kind::Block => "initializer",
        Kind::ConstructorDeclaration | Kind::CompactConstructorDeclaration => "constructor",
        Kind::MethodDeclaration | Kind::AnnotationTypeElementDeclaration => "method",
        Kind::ClassDeclaration
        | Kind::InterfaceDeclaration
        | Kind::EnumDeclaration
        | Kind::RecordDeclaration
        | Kind::AnnotationTypeDeclaration => "type",
        _ => return None,
    }];
    let seen = ["public", "protected", "private"].into_iter().find(|word| has(word));
    words.push(seen.unwrap_or(if of_interface { "public" } else { "package" }));
    words.push(if is_static { "static" } else { "instance" });
    if matches!(kind, Kind::StaticInitializer | Kind::Block) {
        let value = vec![p.first(node)..p.end(node)];
        return Some(Described { words, names: Vec::new(), worth: Worth::Runs, value });
    }
    if !is_field {
        let name = parts.iter().find(|part| p.is(**part, Kind::Identifier));
        let names = name.map(|name| p.first(*name)).into_iter().collect();
        return Some(Described { words, names, worth: Worth::Nothing, value: Vec::new() });
    }
    let declared: Vec<NodeId> =
        parts.iter().copied().filter(|part| p.is(*part, Kind::VariableDeclarator)).collect();
    let names = declared.iter().map(|part| p.first(*part)).collect();
    let values: Vec<NodeId> = declared.iter().filter_map(|part| value(p, *part)).collect();
    let holds_known = parts.iter().any(|part| KNOWN.contains(&p.token_text(p.first(*part))));
    let mut worth = p.worth(&values, is_plain);
    // What the compiler writes wherever the name stands.
    let is_known = |value: &NodeId| {
        p.all_inside(*value).chain([*value]).all(|part| !p.is(part, Kind::Identifier))
    };
    if worth == Worth::Plain && is_final && holds_known && values.iter().all(is_known) {
        worth = Worth::Known;
    }
    let value = values.iter().map(|value| p.first(*value)..p.end(*value)).collect();
    Some(Described { words, names, worth, value })
}

/// The types whose constants are known to the compiler.
const KNOWN: &[&str] =
    &["boolean", "byte", "char", "double", "float", "int", "long", "short", "String"];

/// `2` of `level = 2`
fn value(p: &Planner, declarator: NodeId) -> Option<NodeId> {
    match p.parts(declarator)[..] {
        [.., sign, value] if p.is(sign, Kind::Equals) => Some(value),
        _ => None,
    }
}

/// Whether nothing has to run for what a construct says, beside what is in it. What another type
/// holds may have to come to life first.
fn is_plain(p: &Planner, node: NodeId) -> bool {
    match Kind::at(p, node) {
        Kind::BinaryExpression
        | Kind::UnaryExpression
        | Kind::ParenthesizedExpression
        | Kind::CastExpression
        | Kind::TernaryExpression
        | Kind::ArrayInitializer => true,
        _ => p.parts(node).is_empty(),
    }
}
