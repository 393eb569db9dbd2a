//! Statements and declarations, in the grammar's order.

use super::classes::decorators;
use super::kinds::Kind;
use crate::layout::plan::{GroupId, Shape, TreeEdit, When};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Headed, List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, Role, TokenId};

/// The rule for a statement; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    let parts = match parts {
        // It belongs to the line of the next statement, which is planned with it.
        [before @ .., end]
            if !before.is_empty()
                && p.is(*end, Kind::Semicolon)
                && guard(p, node).is_some() =>
        {
            before
        }
        _ => parts,
    };
    match kind {
        Kind::Program => program(p, parts),
        Kind::ExportStatement | Kind::ImportStatement => module_statement(p, node, parts),
        Kind::NamedImports | Kind::ExportClause => named(p, parts),
        // No statement begins with an object: the language reads a block there.
        Kind::ExpressionStatement if p.token_text(p.first(node)) == "{" => p.fix(node),
        Kind::ExpressionStatement
        | Kind::ReturnStatement
        | Kind::ThrowStatement
        | Kind::BreakStatement
        | Kind::ContinueStatement
        | Kind::DebuggerStatement => simple_statement(p, node, parts),
        Kind::VariableDeclaration | Kind::LexicalDeclaration | Kind::UsingDeclaration => {
            declaration(p, node, parts);
        }
        Kind::VariableDeclarator => super::types::declared(p, parts),
        Kind::StatementBlock => statement_block(p, node, parts),
        Kind::IfStatement => if_statement(p, node, parts),
        Kind::ElseClause => else_clause(p, parts),
        Kind::SwitchStatement => switch_statement(p, node, parts),
        Kind::SwitchBody => switch_body(p, node, parts),
        Kind::SwitchCase | Kind::SwitchDefault => switch_case(p, node, parts),
        Kind::ForStatement => p.counted_loop(node, parts, HEADED),
        Kind::ForInStatement => p.loop_over(node, parts, HEADED),
        Kind::WhileStatement | Kind::WithStatement => while_statement(p, node, parts),
        Kind::DoStatement => do_statement(p, node, parts),
        Kind::TryStatement => try_statement(p, node, parts),
        Kind::CatchClause | Kind::FinallyClause => handler(p, node, parts, Key::Control),
        Kind::LabeledStatement => {
            if let [_, colon, inner] = parts {
                p.labeled(node, *colon, *inner);
            }
        }
        Kind::ClassStaticBlock => handler(p, node, parts, Key::Type),
        _ => return false,
    }
    true
}

fn program(p: &mut Planner, parts: &[NodeId]) {
    listed(p, parts, GroupId::ROOT, 0);
}

/// Statements in a block; an empty one stays with the statement before it.
pub(super) fn listed(p: &mut Planner, parts: &[NodeId], group: GroupId, level: u8) {
    let apart: Vec<NodeId> = parts
        .iter()
        .enumerate()
        .filter(|(index, part)| *index == 0 || !p.is(**part, Kind::EmptyStatement))
        .map(|(_, part)| *part)
        .collect();
    p.statements(&apart, group, level, sort);
    for pair in parts.windows(2) {
        let (before, part) = (pair[0], pair[1]);
        if p.is(part, Kind::EmptyStatement) && guard(p, part).is_none() {
            p.word(p.first(part), 0);
        }
        // A semicolon before a statement on its line: the statement's line begins with it.
        if let Some(end) = guard(p, before) {
            let next = p.first(part);
            if end > p.first(before) || before != parts[0] {
                *p.gap(end) = *p.gap(next);
            }
            p.flat(next, 0, Setting::StatementEnd);
        }
    }
}

pub(super) fn sort(p: &Planner, node: NodeId) -> Sort {
    match Kind::at(p, node) {
        Kind::ImportStatement => Sort::Import,
        Kind::FunctionDeclaration
        | Kind::GeneratorFunctionDeclaration
        | Kind::MethodDefinition
            if p.is_one_line(node, Key::Function) =>
        {
            Sort::Other
        }
        Kind::FunctionDeclaration | Kind::GeneratorFunctionDeclaration => Sort::Function,
        Kind::ClassDeclaration | Kind::AbstractClassDeclaration => Sort::Type,
        Kind::MethodDefinition => Sort::Member,
        Kind::FieldDefinition | Kind::PublicFieldDefinition => Sort::Field,
        Kind::ExportStatement | Kind::AmbientDeclaration => {
            let declared = p.parts(node).into_iter().last();
            declared.map_or(Sort::Other, |declared| match Kind::at(p, declared) {
                Kind::ExportStatement | Kind::AmbientDeclaration => Sort::Other,
                _ => sort(p, declared),
            })
        }
        _ => Sort::Other,
    }
}

/// `import a, { b } from "x";`, `export default a;`, `export * from "x";`
fn module_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    decorators(p, node, parts);
    let last = parts.last().map(|last| Kind::at(p, *last));
    let declares = matches!(
        last,
        Some(
            Kind::FunctionDeclaration
                | Kind::GeneratorFunctionDeclaration
                | Kind::FunctionExpression
                | Kind::GeneratorFunction
                | Kind::Class
                | Kind::ClassDeclaration
                | Kind::AbstractClassDeclaration
                | Kind::LexicalDeclaration
                | Kind::VariableDeclaration
                | Kind::FunctionSignature
                | Kind::InterfaceDeclaration
                | Kind::EnumDeclaration
                | Kind::TypeAliasDeclaration
                | Kind::ImportAlias
                | Kind::AmbientDeclaration
                | Kind::Module
                | Kind::InternalModule
        )
    );
    if !declares {
        statement_end(p, node, parts);
    }
}

/// `{ gauge, alarm as siren }`
fn named(p: &mut Planner, parts: &[NodeId]) {
    let list = List::new().collection().names().read_along().last_comma().opens_around_lines();
    p.list(parts, list.by_hand_if(parts.len() == 3));
}

/// A statement of words and one expression, with its end.
fn simple_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    if parts.first().is_some_and(|part| p.is(*part, Kind::InternalModule)) {
        return;
    }
    statement_end(p, node, parts);
}

/// The semicolon at a statement's end that begins the next statement's line, to keep the two apart,
/// where semicolons are not asked for. One that no statement stands before stays where it is, and one
/// at the end of its line comes down where none are agreed.
fn guard(p: &Planner, node: NodeId) -> Option<TokenId> {
    let end = p.end(node).checked_sub(1)?;
    let next = p.tree.tokens.get(end as usize + 1)?;
    if p.token_text(end) != ";" || next.role == Role::Comment {
        return None;
    }
    let text = p.token_text(end + 1);
    let begins_line = end == 0 || p.broken_before(end);
    let guards = match p.broken_before(end + 1) {
        false => begins_line
            && (is_lone(p, node) || !p.choices.end_with_semicolon && needs_guard(text)),
        true => !begins_line && p.choices.end_bare && text.starts_with(['(', '[', '`']),
    };
    if !guards {
        return None;
    }
    // The statement that follows stands beside this one, or beside the one that this one ends.
    let mut list = p.parent(node);
    while p.end(list) == end + 1 {
        list = p.parent(list);
    }
    let follows = |part: &NodeId| p.first(*part) == end + 1 && p.token_text(end + 1) != "}";
    p.parts(list).iter().any(follows).then_some(end)
}

/// Whether somebody puts a semicolon before what begins so: it might go on with the line before, or `!`
/// calls a function on the spot.
fn needs_guard(text: &str) -> bool {
    text.starts_with(['(', '[', '/', '+', '-', '`', '<', '!'])
}

/// Whether a semicolon ends nothing: it is the first thing in a block or a file.
fn is_lone(p: &Planner, node: NodeId) -> bool {
    let parts = p.parts(p.parent(node));
    let first = parts.iter().find(|part| p.token_text(p.first(**part)) != "{");
    p.is(node, Kind::EmptyStatement) && first == Some(&node)
}

/// Sets the gap before a semicolon, and adds or drops it as `statement_end` wants.
pub(super) fn statement_end(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(&last) = parts.last() else { return };
    let present = p.is(last, Kind::Semicolon);
    if parts.len() > 1 && guard(p, node).is_some() {
        return;
    }
    if present {
        p.flat(p.first(last), 0, Setting::StatementEnd);
    }
    if goes_on_below(p, node) || in_for(p, node) {
        return;
    }
    if !present {
        p.end_with_semicolon(node);
    } else if present && p.choices.end_bare {
        let end = p.first(last);
        if may_go_bare(p, node, end) {
            // Something may follow on the line of a statement in a flat block.
            let when = p.handed_statement(node).map_or(When::Always, When::Open);
            p.rewrite(end, TreeEdit::Remove(when), Setting::StatementEnd);
        }
    }
}

/// Whether a statement ends with a word that the language reads with the line below, although the grammar
/// reads two statements.
fn goes_on_below(p: &Planner, node: NodeId) -> bool {
    let last = p.end(node) - 1;
    let is_name = last > 0 && p.token_text(last - 1).ends_with('.');
    matches!(p.token_text(last), "let" | "await") && !is_name
}

/// Whether a node stands in a `for`'s parentheses.
fn in_for(p: &Planner, node: NodeId) -> bool {
    let parent = p.parent(node);
    p.is(parent, Kind::ForStatement) && p.parts(parent).last() != Some(&node)
}

/// Whether the next line stays apart from a statement whose semicolon `end` goes.
pub(super) fn may_go_bare(p: &Planner, node: NodeId, end: TokenId) -> bool {
    let mut next = end + 1;
    while p.tree.tokens.get(next as usize).is_some_and(|token| token.role == Role::Comment) {
        next += 1;
    }
    if next as usize >= p.tree.tokens.len() {
        return true;
    }
    let text = p.token_text(next);
    let joins = text.starts_with(['(', '[', '/', '+', '-', '`', ';', '*', '.', ',', '<', '?', '='])
        || matches!(text, "in" | "instanceof")
        || (text == "while" && p.is(p.parent(node), Kind::DoStatement))
        || (text == "else" && !p.begins_line(next));
    // Inside a class, a field of such a name would be read as a modifier of what follows.
    let name = p.token_text(p.end(node) - 1);
    let modifies = matches!(
        Kind::at(p, node),
        Kind::FieldDefinition | Kind::PublicFieldDefinition
    ) && matches!(
        name,
        "get"
            | "set"
            | "static"
            | "async"
            | "accessor"
            | "readonly"
            | "declare"
            | "abstract"
            | "public"
            | "private"
            | "protected"
            | "override"
    );
    !joins && !modifies
}

/// `let level = 2, ebb;`
fn declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.commas(parts);
    let declarators: Vec<NodeId> =
        parts.iter().copied().filter(|part| p.is(*part, Kind::VariableDeclarator)).collect();
    p.declared_together(node, &declarators);
    statement_end(p, node, parts);
}

/// `{ … }` around statements.
fn statement_block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let flat = p.handed_block(node).or_else(|| {
        let alone = stands_alone(p, node) && p.keeps_flat(node, Key::Control);
        alone.then(|| p.group(Shape::List, p.first(node), p.end(node)))
    });
    match flat {
        Some(group) => {
            let inner = p.flat_block(parts, group);
            p.flat_statements(inner, group, HEADED.empty);
        }
        None => p.block(parts, block_base(p, node), |p, inner, group| {
            let level = u8::from(is_indented(p, node, inner));
            p.group_mut(group).inner = level;
            listed(p, inner, group, level);
        }),
    }
}

/// Whether what a block holds is a step further in: not always, if it is a namespace.
fn is_indented(p: &Planner, node: NodeId, inner: &[NodeId]) -> bool {
    if p.choices.namespace_indent == Some(true) || !is_namespace(p, node) {
        return true;
    }
    p.indents_namespace(block_base(p, node), inner.first().map(|first| p.first(*first)))
}

/// Whether a block is a namespace's: a function's that stands in no other block and has three
/// fifths of the file, or one's that is called at once, as a statement right inside such a block.
fn is_namespace(p: &Planner, node: NodeId) -> bool {
    let function = p.parent(node);
    if !matches!(Kind::at(p, function), Kind::FunctionExpression | Kind::ArrowFunction) {
        return false;
    }
    let (mut around, mut is_statement) = (p.parent(function), true);
    while !matches!(Kind::at(p, around), Kind::StatementBlock | Kind::Program) {
        is_statement &= matches!(
            Kind::at(p, around),
            Kind::ParenthesizedExpression | Kind::CallExpression | Kind::ExpressionStatement
        );
        if around == p.parent(around) {
            return false;
        }
        around = p.parent(around);
    }
    match Kind::at(p, around) {
        Kind::Program => p.has_most(node),
        _ => is_statement && p.has_most(around) && is_namespace(p, around),
    }
}

/// Whether a block has no header.
fn stands_alone(p: &Planner, block: NodeId) -> bool {
    matches!(
        Kind::at(p, p.parent(block)),
        Kind::Program
            | Kind::StatementBlock
            | Kind::SwitchCase
            | Kind::SwitchDefault
            | Kind::LabeledStatement
    )
}

/// The token whose line a block's lines count from: its header's first one.
fn block_base(p: &Planner, node: NodeId) -> TokenId {
    let parent = p.parent(node);
    match stands_alone(p, node) && !p.is(parent, Kind::LabeledStatement) {
        true => p.first(node),
        // The header is the last clause that begins before the block.
        false => p.first(parent),
    }
}

/// What may stand behind a header. A function that is declared without a block around it is known outside
/// of the statement.
const HEADED: Headed = Headed {
    block: Kind::StatementBlock as u16,
    empty: Kind::EmptyStatement as u16,
    bare: &[Kind::FunctionDeclaration as u16, Kind::GeneratorFunctionDeclaration as u16],
};

fn if_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, condition, consequence, rest @ ..] = parts else { return };
    let header = p.first(node);
    p.asks_in(*condition);
    p.headed(*consequence, header, p.end(*condition) - 1, HEADED);
    if let Some(other) = rest.first() {
        p.or_else(p.first(*other), node, *consequence, HEADED);
    }
}

fn else_clause(p: &mut Planner, parts: &[NodeId]) {
    let [word, inner] = parts else { return };
    p.otherwise(p.first(*word), *inner, p.is(*inner, Kind::IfStatement), HEADED);
}

fn switch_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, value, cases] = parts else { return };
    p.asks_in(*value);
    p.open_brace(p.first(*cases), p.first(node), Key::Control);
}

fn switch_body(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.cases(parts, p.first(p.parent(node)));
}

/// `case ebb: …`
fn switch_case(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(colon) = p.position(parts, Kind::Colon) else { return };
    p.words(&parts[..colon]);
    let colon_token = p.first(parts[colon]);
    p.word(colon_token, 0);
    p.case_body(node, colon_token, &parts[colon + 1..], HEADED, listed);
}

fn while_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, condition, inner] = parts else { return };
    p.asks_in(*condition);
    p.headed(*inner, p.first(node), p.end(*condition) - 1, HEADED);
}

/// `do { … } while (ebb);`
fn do_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [word, inner, while_word, condition, ..] = parts else { return };
    p.headed(*inner, p.first(node), p.first(*word), HEADED);
    p.ends_loop(p.first(*while_word), p.first(node), p.is(*inner, Kind::StatementBlock));
    p.asks_in(*condition);
    statement_end(p, node, parts);
}

fn try_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, block, rest @ ..] = parts else { return };
    p.open_block(*block, p.first(node), Key::Control);
    for handler in rest {
        p.goes_on(p.first(*handler), p.first(node), true);
    }
}

/// `catch (problem) { … }`, `finally { … }`, `static { … }`
fn handler(p: &mut Planner, node: NodeId, parts: &[NodeId], key: Key) {
    let Some((block, header)) = parts.split_last() else { return };
    for (index, part) in header.iter().enumerate().skip(1) {
        let token = p.first(*part);
        let inside = matches!(Kind::at(p, header[index - 1]), Kind::OpenParen);
        if p.is(*part, Kind::OpenParen) {
            p.asks_in(*part);
        } else if p.is(*part, Kind::TypeAnnotation) {
            p.word(token, 0);
        } else if inside || p.is(*part, Kind::CloseParen) {
            p.inside_bracket(token, p.choices.parens_gap);
        } else {
            p.word(token, 1);
        }
    }
    p.open_block(*block, p.first(node), key);
}
