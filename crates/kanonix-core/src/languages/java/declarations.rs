//! Types and their members, in the grammar's order.

use super::kinds::Kind;
use super::members::describe;
use super::statements::{ends, listed};
use crate::layout::plan::{GroupId, Rows, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Between, List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for a declaration; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::Program => {
            p.may_share_lines();
            p.statements(parts, GroupId::ROOT, 0, sort);
        }
        Kind::ImportDeclaration => {
            header(p, node, parts);
            // One of all that something has ends with a star.
            let name = parts.iter().rev().nth(1).filter(|name| {
                p.is(**name, Kind::ScopedIdentifier) || p.is(**name, Kind::Identifier)
            });
            if let Some(name) = name {
                p.imports_name(node, *name);
            }
        }
        Kind::PackageDeclaration
        | Kind::RequiresModuleDirective
        | Kind::ExportsModuleDirective
        | Kind::OpensModuleDirective
        | Kind::UsesModuleDirective
        | Kind::ProvidesModuleDirective
        | Kind::ReceiverParameter => header(p, node, parts),
        Kind::ModuleDeclaration
        | Kind::ClassDeclaration
        | Kind::InterfaceDeclaration
        | Kind::EnumDeclaration
        | Kind::RecordDeclaration
        | Kind::AnnotationTypeDeclaration => type_declaration(p, node, parts),
        Kind::ClassBody | Kind::InterfaceBody | Kind::AnnotationTypeBody | Kind::ModuleBody => {
            let doubled = doubled(p, parts);
            match p.handed_block(node) {
                Some(group) => {
                    p.flat_block(parts, group);
                    if let Some((inner, closer)) = doubled {
                        p.gap(inner).blanks = 0;
                        p.gap(closer).blanks = 0;
                    }
                }
                None if let Some((inner, closer)) = doubled => {
                    p.word(inner, 0);
                    p.word(closer, 0);
                }
                None if p.stays_empty(parts, p.first(p.parent(node))) => {}
                None => p.block(parts, p.first(p.parent(node)), |p, members, group| {
                    listed(p, members, group, 1);
                    p.order_members(members, describe);
                }),
            }
        }
        Kind::EnumBody => enum_body(p, node, parts),
        Kind::EnumBodyDeclarations => {}
        Kind::EnumConstant => enum_constant(p, node, parts),
        Kind::Superclass | Kind::SuperInterfaces | Kind::ExtendsInterfaces | Kind::Permits => {
            clause(p, node, parts);
        }
        Kind::TypeList => {}
        Kind::Throws => clause(p, node, parts),
        Kind::FieldDeclaration | Kind::ConstantDeclaration | Kind::LocalVariableDeclaration => {
            declaration(p, node, parts);
        }
        Kind::VariableDeclarator | Kind::Resource => declared(p, node, parts),
        Kind::MethodDeclaration
        | Kind::ConstructorDeclaration
        | Kind::CompactConstructorDeclaration
        | Kind::StaticInitializer
        | Kind::AnnotationTypeElementDeclaration => method(p, node, parts),
        Kind::FormalParameters | Kind::InferredParameters => {
            p.list(parts, List::new().declaration());
        }
        Kind::FormalParameter | Kind::SpreadParameter | Kind::CatchFormalParameter => {
            header(p, node, parts);
        }
        Kind::TypeParameters => _ = p.list(parts, List::new()),
        Kind::TypeArguments => _ = p.list(parts, List::new().reluctant()),
        Kind::RecordPatternBody => _ = p.list(parts, List::new()),
        Kind::Modifiers => {
            header(p, node, parts);
            let is_word = |part: &&NodeId| {
                !matches!(Kind::at(p, **part), Kind::Annotation | Kind::MarkerAnnotation)
            };
            let words: Vec<TokenId> =
                parts.iter().filter(is_word).map(|part| p.first(*part)).collect();
            p.order_modifiers(&words, MODIFIERS);
        }
        Kind::Annotation => {
            p.tight(parts);
            if let [.., arguments] = parts {
                p.parens(p.first(*arguments), p.choices.call_parens);
            }
        }
        Kind::AnnotationArgumentList => _ = p.list(parts, List::new().closes_around_one()),
        Kind::ElementValuePair => {
            if let [_, sign, value] = parts {
                p.sign(*sign, *value, Key::Default);
            }
        }
        Kind::ArrayType | Kind::ScopedTypeIdentifier => header(p, node, parts),
        Kind::Dimensions | Kind::DimensionsExpr => dimensions(p, parts),
        _ => return false,
    }
    true
}

/// The order that the language's specification puts the words before a declaration in.
const MODIFIERS: &[&str] = &[
    "public", "protected", "private", "abstract", "default", "static", "sealed", "non-sealed",
    "final", "transient", "volatile", "synchronized", "native", "strictfp",
];

pub(super) fn sort(p: &Planner, node: NodeId) -> Sort {
    match Kind::at(p, node) {
        Kind::ImportDeclaration => Sort::Import,
        Kind::ClassDeclaration
        | Kind::InterfaceDeclaration
        | Kind::EnumDeclaration
        | Kind::RecordDeclaration
        | Kind::AnnotationTypeDeclaration => Sort::Type,
        Kind::MethodDeclaration if p.is_one_line(node, Key::Function) => Sort::Other,
        Kind::MethodDeclaration if p.is(p.parent(node), Kind::Program) => Sort::Function,
        Kind::ConstructorDeclaration | Kind::CompactConstructorDeclaration => Sort::Member,
        Kind::FieldDeclaration | Kind::ConstantDeclaration => Sort::Field,
        // Those of an interface stand together.
        Kind::MethodDeclaration if p.token_text(p.end(node) - 1) != ";" => Sort::Member,
        _ => Sort::Other,
    }
}

/// What is before a part of a header.
fn between(p: &Planner, before: NodeId, part: NodeId) -> Between {
    match (Kind::at(p, before), Kind::at(p, part)) {
        (_, Kind::FormalParameters) => Between::Parameters,
        (Kind::Identifier, Kind::OpenParen) => Between::Parameters,
        (_, Kind::TypeParameters) if p.is(before, Kind::Identifier) => Between::Nothing,
        (_, Kind::Equals) => Between::Sign(Key::Assign),
        (_, Kind::Dimensions | Kind::TypeArguments | Kind::Comma | Kind::Semicolon | Kind::Dots)
        | (_, Kind::Dot | Kind::CloseParen)
        | (Kind::Dot, _) => Between::Nothing,
        _ => Between::Blank,
    }
}

/// The words of a header; annotations stay on the line of what they belong to, or on lines of their
/// own.
fn header(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.header(parts, between);
    let kind = annotated_kind(p, node);
    let mut leads = true;
    for pair in parts.windows(2) {
        let [before, part] = [pair[0], pair[1]];
        let mut ends = is_annotation(p, before);
        if p.is(before, Kind::Modifiers) {
            let own = p.parts(before);
            leads &= own.iter().all(|own| is_annotation(p, *own));
            ends = own.last().is_some_and(|last| is_annotation(p, *last));
        } else {
            leads &= ends;
        }
        if ends && !p.is(part, Kind::Dimensions) {
            let (start, token) = (p.first(node), p.first(part));
            match kind.filter(|_| leads) {
                Some(kind) => p.annotated(start, token, kind),
                None => p.as_it_stands(start, token),
            }
        }
    }
}

fn is_annotation(p: &Planner, part: NodeId) -> bool {
    matches!(Kind::at(p, part), Kind::Annotation | Kind::MarkerAnnotation)
}

/// The kind of declaration that a header is one of, as `annotation_line` has them.
fn annotated_kind(p: &Planner, node: NodeId) -> Option<Key> {
    let declaration = if p.is(node, Kind::Modifiers) { p.parent(node) } else { node };
    match Kind::at(p, declaration) {
        Kind::ModuleDeclaration
        | Kind::ClassDeclaration
        | Kind::InterfaceDeclaration
        | Kind::EnumDeclaration
        | Kind::RecordDeclaration
        | Kind::AnnotationTypeDeclaration => Some(Key::Type),
        Kind::MethodDeclaration
        | Kind::ConstructorDeclaration
        | Kind::CompactConstructorDeclaration
        | Kind::AnnotationTypeElementDeclaration => Some(Key::Function),
        Kind::FieldDeclaration | Kind::ConstantDeclaration | Kind::LocalVariableDeclaration => {
            Some(Key::Value)
        }
        _ => None,
    }
}

/// `class Quay extends Gauge implements Alarm`, and its body.
fn type_declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    header(p, node, parts);
    let Some((body, head)) = parts.split_last() else { return };
    clauses(p, head);
    match Kind::at(p, *body) {
        Kind::EnumBody => p.open_brace(p.first(*body), p.first(node), Key::Type),
        _ => p.open_block(*body, p.first(node), Key::Type),
    }
}

/// Breaks before what a header says of other types, where it does not fit.
fn clauses(p: &mut Planner, head: &[NodeId]) {
    let clause = |part: &NodeId| match Kind::at(p, *part) {
        Kind::Superclass | Kind::SuperInterfaces | Kind::ExtendsInterfaces | Kind::Permits => {
            Some((*part, Key::Base))
        }
        Kind::Throws => Some((*part, Key::Throws)),
        _ => None,
    };
    let clauses: Vec<(NodeId, Key)> = head.iter().filter_map(clause).collect();
    if let Some((last, _)) = clauses.last() {
        let end = p.end(*last);
        p.clauses_of(p.behind_annotations(p.first(head[0]), end), end, &clauses);
    }
}

/// `extends Gauge`, `implements Alarm, Siren`, `throws Storm`
fn clause(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, named @ ..] = parts else { return };
    let types = match named {
        [list] if p.is(*list, Kind::TypeList) => p.parts(*list),
        _ => named.to_vec(),
    };
    let Some(first) = types.first().map(|first| p.first(*first)) else { return };
    let group = p.group(Shape::Chain, first, p.end(node));
    p.stem(group, p.first(node));
    let align = p.choices.aligns.of(Key::Declaration);
    let own = p.group_mut(group);
    (own.align, own.rows) = (align, Rows::Any);
    for (index, part) in types.iter().enumerate() {
        let token = p.first(*part);
        match p.is(*part, Kind::Comma) {
            true => p.word(token, 0),
            false if index == 0 => p.word(token, 1),
            false => p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap),
        }
    }
}

/// `{ EBB, FLOOD(2) { … }; int level; }`
fn enum_body(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let members = parts.iter().copied().find(|part| p.is(*part, Kind::EnumBodyDeclarations));
    let Some(members) = members else {
        p.list(parts, List::new().collection().last_comma().opens_around_lines());
        return;
    };
    p.block(parts, p.first(p.parent(node)), |p, inner, group| {
        let first = p.first(inner[0]);
        p.line(first, group, 1, Setting::FlatBlock);
        let constants = p.group(Shape::List, first, p.first(members));
        p.group_mut(constants).rows = Rows::Loose;
        for part in &inner[1..] {
            let token = p.first(*part);
            if p.is(*part, Kind::EnumConstant) {
                p.may_break(token, constants, 0, 1, Setting::WordGap);
                p.gap(token).inside = true;
            } else if p.is_separator(*part) || !p.broken_before(token) {
                p.word(token, 0);
            } else {
                p.line(token, group, 1, Setting::FlatBlock);
            }
        }
        let [_, own @ ..] = &p.parts(members)[..] else { return };
        listed(p, own, group, 1);
        p.order_members(own, describe);
    });
}

/// `FLOOD(2) { … }`
fn enum_constant(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    header(p, node, parts);
    for part in parts {
        let token = p.first(*part);
        match Kind::at(p, *part) {
            Kind::ArgumentList => p.parens(token, p.choices.call_parens),
            Kind::ClassBody => p.open_brace(token, p.first(node), Key::Type),
            _ => {}
        }
    }
}

/// `private int level = 2, ebb;`
fn declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    header(p, node, parts);
    let declarators: Vec<NodeId> =
        parts.iter().copied().filter(|part| p.is(*part, Kind::VariableDeclarator)).collect();
    p.declared_together(node, &declarators);
    ends(p, parts);
}

/// `level = 2`
fn declared(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    header(p, node, parts);
    if let [.., sign, value] = parts
        && p.is(*sign, Kind::Equals)
    {
        super::expressions::assigned(p, p.first(*sign), *value);
    }
}

/// The inner opening and the outer closing brace of `new Quay() {{ open(); }}`: what a type without a name
/// does as it comes to life, where nothing else is in it.
fn doubled(p: &Planner, parts: &[NodeId]) -> Option<(TokenId, TokenId)> {
    let [opener, inner, closer] = parts else { return None };
    let (brace, inner_brace) = (p.first(*opener), p.first(*inner));
    let is_doubled = p.is(*inner, Kind::Block)
        && p.choices.remembers
        && p.gap_text(inner_brace).is_empty()
        && !p.broken_before(brace)
        && !p.style.is(Setting::OpenBrace, Key::Type, "next_line")
        && p.end(*inner) > inner_brace + 2;
    is_doubled.then(|| (inner_brace, p.first(*closer)))
}

/// `public <T> int level(int at) throws Storm { … }`
fn method(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    header(p, node, parts);
    let Some((body, head)) = parts.split_last() else { return };
    after_types(p, head);
    if let Some(parameters) = p.position(head, Kind::FormalParameters)
        && let [.., before, name] = head[..parameters]
        && !p.is(before, Kind::Modifiers)
    {
        p.typed(node, p.first(name), p.is(*body, Kind::Block));
    }
    clauses(p, head);
    match Kind::at(p, *body) {
        Kind::Block | Kind::ConstructorBody => {
            p.open_block(*body, p.first(node), Key::Function);
        }
        _ => ends(p, parts),
    }
}

/// What a method gives, behind the types that it is for: on the next line, rather than that the list of
/// these opens.
fn after_types(p: &mut Planner, head: &[NodeId]) {
    let Some(types) = p.position(head, Kind::TypeParameters) else { return };
    let parameters = p.position(head, Kind::FormalParameters).map(|at| p.end(head[at]));
    let (Some(given), Some(end)) = (head.get(types + 1), parameters) else { return };
    let first = p.first(*given);
    let group = p.group(Shape::LastResort, first - 1, end);
    let level = p.choices.chain_steps;
    p.may_break(first, group, level, 1, Setting::WordGap);
}

/// `[]`, `[2]`
fn dimensions(p: &mut Planner, parts: &[NodeId]) {
    for pair in parts.windows(2) {
        let token = p.first(pair[1]);
        match Kind::at(p, pair[1]) {
            Kind::OpenBracket | Kind::Annotation | Kind::MarkerAnnotation => {
                let apart = matches!(
                    Kind::at(p, pair[0]),
                    Kind::Annotation | Kind::MarkerAnnotation
                );
                p.word(token, u8::from(apart));
            }
            _ if p.token_text(token) == "]" && p.is(pair[0], Kind::OpenBracket) => p.word(token, 0),
            _ => p.inside_bracket(token, p.choices.brackets_gap),
        }
    }
}
