//! Functions, classes and their members, in the grammar's order.

use super::kinds::Kind;
use super::statements::{may_go_bare, sort};
use super::types::{declared, signature};
use crate::layout::plan::{GroupId, Opens, Shape, TreeEdit, When};
use crate::layout::planner::Planner;
use crate::style::{Key, Setting};
use crate::syntax::NodeId;

/// The rule for a function, a class or a member; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::FunctionDeclaration
        | Kind::FunctionExpression
        | Kind::GeneratorFunction
        | Kind::GeneratorFunctionDeclaration => function(p, node, kind, parts),
        Kind::ClassDeclaration | Kind::AbstractClassDeclaration | Kind::Class => {
            class(p, node, parts);
        }
        Kind::ClassHeritage => {
            for part in parts.iter().skip(1) {
                // The header may have said that a line may end here.
                if !p.is_breakable(p.first(*part)) {
                    p.word(p.first(*part), 1);
                }
            }
        }
        Kind::ExtendsClause | Kind::ExtendsTypeClause | Kind::ImplementsClause => clause(p, parts),
        Kind::ClassBody => class_body(p, node, parts),
        Kind::FieldDefinition | Kind::PublicFieldDefinition => {
            declared(p, parts);
            decorators(p, node, parts);
        }
        Kind::MethodDefinition => method_definition(p, node, parts),
        _ => return false,
    }
    true
}

/// `async function* readings(from) { … }`
fn function(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) {
    let Some((body, header)) = parts.split_last() else { return };
    signature(p, header);
    let mut named = false;
    for pair in header.windows(2) {
        let [before, part] = [pair[0], pair[1]];
        let token = p.first(part);
        match Kind::at(p, part) {
            Kind::Star => p.word(token, 0),
            Kind::Identifier => {
                p.word(token, 1);
                named = true;
            }
            Kind::FormalParameters
                if matches!(Kind::at(p, before), Kind::Function | Kind::Star) =>
            {
                p.parens(token, p.choices.lambda_parens);
            }
            _ => {}
        }
    }
    let declares =
        matches!(kind, Kind::FunctionDeclaration | Kind::GeneratorFunctionDeclaration) && named;
    let key = if declares { Key::Function } else { Key::Lambda };
    p.open_block(*body, p.first(node), key);
}

fn class(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    signature(p, parts);
    decorators(p, node, parts);
    let Some((body, head)) = parts.split_last() else { return };
    heritage(p, node, head);
    p.open_brace(p.first(*body), p.first(node), Key::Type);
}

/// Breaks before `extends` and `implements` where a header does not fit.
pub(super) fn heritage(p: &mut Planner, node: NodeId, head: &[NodeId]) {
    let Some(last) = head.last() else { return };
    let clauses = match Kind::at(p, *last) {
        // `extends` and what it names, where there are no types.
        Kind::ClassHeritage if is_lone_clause(p, *last) => {
            let extends = p.first(*last);
            let group = p.group(Shape::LastResort, extends - 1, p.end(*last));
            p.group_mut(group).opens = Opens::ToFit;
            return p.may_break(extends, group, 1, 1, Setting::WordGap);
        }
        Kind::ClassHeritage => p.parts(*last),
        Kind::ExtendsTypeClause => vec![*last],
        _ => return,
    };
    let group = p.group(Shape::Chain, p.first(node), p.end(*last));
    for clause in clauses {
        if p.end(clause) > p.first(clause) + 1 {
            p.may_break(p.first(clause), group, 1, 1, Setting::WordGap);
        }
    }
}

/// Whether a class names one thing that it goes on from; where there are no types, it does so at once.
fn is_lone_clause(p: &Planner, heritage: NodeId) -> bool {
    let clauses = p.parts(heritage);
    let is_clause = |clause: &NodeId| {
        matches!(Kind::at(p, *clause), Kind::ExtendsClause | Kind::ImplementsClause)
    };
    clauses.len() == 1 || !clauses.iter().any(is_clause)
}

/// `extends Gauge<Level>, Alarm`
fn clause(p: &mut Planner, parts: &[NodeId]) {
    let (Some(first), Some(last)) = (parts.first(), parts.last()) else { return };
    let group = p.group(Shape::Chain, p.first(*first), p.end(*last));
    for pair in parts.windows(2) {
        let token = p.first(pair[1]);
        if p.is(pair[0], Kind::Comma) {
            p.may_break(token, group, 1, 1, Setting::WordGap);
        } else {
            let tight = p.is(pair[1], Kind::Comma) || p.is(pair[1], Kind::TypeArguments);
            p.word(token, u8::from(!tight));
        }
    }
}

/// Decorators stay on the line of what they decorate, or on lines of their own, as they stand.
pub(super) fn decorators(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    for pair in parts.windows(2) {
        let [decorator, next] = pair else { continue };
        if p.is(*decorator, Kind::Decorator) {
            p.as_it_stands(p.first(node), p.first(*next));
        }
    }
}

fn class_body(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.block(parts, p.first(p.parent(node)), |p, inner, group| {
        // A member's decorators may stand beside it in the body.
        let mut members: Vec<NodeId> = Vec::new();
        let mut decorator = None;
        for part in inner.iter().copied() {
            if p.is_separator(part) {
                continue;
            }
            match decorator {
                Some(first) => p.as_it_stands(first, p.first(part)),
                None => members.push(part),
            }
            decorator = match p.is(part, Kind::Decorator) {
                true => decorator.or(Some(p.first(part))),
                false => None,
            };
        }
        p.statements(&members, group, 1, sort);
        for (index, part) in inner.iter().enumerate() {
            member_end(p, inner, index, *part, group);
        }
    });
}

/// Whether a member is a word that the language reads with the member on the line below: `static`.
fn goes_on_below(p: &Planner, member: NodeId) -> bool {
    let first = p.first(member);
    p.end(member) == first + 1
        && matches!(p.token_text(first), "static" | "get" | "set" | "accessor")
}

/// A semicolon behind a member, or a member that may have one.
fn member_end(p: &mut Planner, inner: &[NodeId], index: usize, part: NodeId, group: GroupId) {
    if !p.is_separator(part) {
        let ends_bare = inner.get(index + 1).is_none_or(|next| !p.is_separator(*next));
        if takes_end(p, part)
            && ends_bare
            && p.choices.end_with_semicolon
            && let Some(token) = p.tree.last_solid(part)
            && !goes_on_below(p, part)
        {
            p.rewrite(token, TreeEdit::Insert(";", When::Always), Setting::StatementEnd);
        }
        return;
    }
    let end = p.first(part);
    if index == 0 {
        return p.line(end, group, 1, Setting::StatementEnd);
    }
    p.flat(end, 0, Setting::StatementEnd);
    let member = inner[index - 1];
    if takes_end(p, member) && p.choices.end_bare && may_go_bare(p, member, end) {
        p.rewrite(end, TreeEdit::Remove(When::Always), Setting::StatementEnd);
    }
}

/// Whether a member ends with a semicolon or its line.
fn takes_end(p: &Planner, member: NodeId) -> bool {
    matches!(
        Kind::at(p, member),
        Kind::FieldDefinition
            | Kind::PublicFieldDefinition
            | Kind::MethodSignature
            | Kind::AbstractMethodSignature
            | Kind::IndexSignature
    )
}

/// `static async *readings(from) { … }`
fn method_definition(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some((body, header)) = parts.split_last() else { return };
    signature(p, header);
    for pair in header.windows(2) {
        // A field of that name, with the method below it.
        let below = p.first(pair[1]);
        if p.is(pair[0], Kind::Async) && p.broken_before(below) {
            p.keep_gap(below);
        }
    }
    decorators(p, node, parts);
    p.open_block(*body, p.first(node), Key::Function);
}
