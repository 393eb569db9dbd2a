//! Statements, blocks and declarations, in the grammar's order.

use super::expressions::command_below;
use super::kinds::Kind;
use crate::layout::plan::{Around, Column, GroupId, Shape, When};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for a statement; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::Program => program(p, parts),
        // What holds them plans them.
        Kind::StatementList
        | Kind::NamedBlockList
        | Kind::SwitchClauses
        | Kind::ScriptBlock
        | Kind::ScriptBlockBody
        | Kind::StatementBlock
        | Kind::ParameterList
        | Kind::ClassMethodParameterList
        | Kind::ElseifClauses
        | Kind::CatchClauses => {}
        Kind::ParamBlock => param_block(p, parts),
        Kind::ScriptParameter | Kind::ClassMethodParameter | Kind::ClassPropertyDefinition => {
            declared(p, parts);
        }
        Kind::ScriptParameterDefault => {
            if let [sign, value] = parts {
                let gap = p.beside(p.first(*value), Key::Default);
                p.assigned(p.first(*sign), *value, gap, Setting::OperatorGap);
                p.even_out(p.first(*sign), p.first(*value), Key::Default);
            }
        }
        Kind::AttributeList => attributes(p, parts),
        Kind::FunctionParameterDeclaration => {
            _ = p.list(&flattened(p, parts), List::new().declaration());
        }
        Kind::NamedBlock
        | Kind::ElseClause
        | Kind::FinallyClause
        | Kind::TrapStatement
        | Kind::CatchClause
        | Kind::DataStatement
        | Kind::InlinescriptStatement
        | Kind::ParallelStatement
        | Kind::SequenceStatement => {
            if let [header @ .., inner] = parts {
                p.words(header);
                block(p, *inner, p.first(node), Key::Control, Key::Control);
            }
        }
        Kind::FlowControlStatement | Kind::DataCommandsAllowed | Kind::SwitchParameters => {
            p.words(parts);
        }
        Kind::TryStatement => {
            let parts = clauses(p, parts);
            let [_, inner, clauses @ ..] = &parts[..] else { return false };
            block(p, *inner, p.first(node), Key::Control, Key::Control);
            go_on(p, node, clauses);
        }
        Kind::IfStatement | Kind::ElseifClause => if_statement(p, node, parts),
        Kind::SwitchStatement => switch_statement(p, node, parts),
        Kind::SwitchCondition => asked(p, parts, false),
        Kind::SwitchBody => switch_body(p, node, parts),
        Kind::SwitchClause => {
            let [_, inner, ends @ ..] = parts else { return false };
            block(p, *inner, p.first(node), Key::Control, Key::Case);
            if !p.broken_before(p.first(*inner)) {
                p.column(p.first(*inner), Column::Value);
            }
            ends.iter().for_each(|end| p.word(p.first(*end), 0));
        }
        Kind::ForeachStatement => foreach_statement(p, node, parts),
        Kind::ForStatement => {
            let [_, header @ .., inner] = parts else { return false };
            for_clauses(p, header);
            block(p, *inner, p.first(node), Key::Control, Key::Control);
        }
        Kind::WhileStatement => {
            let [_, header @ .., inner] = parts else { return false };
            asks(p, header, true);
            block(p, *inner, p.first(node), Key::Control, Key::Control);
        }
        Kind::DoStatement => {
            let [_, inner, word, rest @ ..] = parts else { return false };
            block(p, *inner, p.first(node), Key::Control, Key::Control);
            p.ends_loop(p.first(*word), p.first(node), true);
            asks(p, rest, false);
        }
        Kind::FunctionStatement => {
            let Some(brace) = p.position(parts, Kind::OpenBrace) else { return false };
            p.words(&parts[..brace]);
            parameters(p, &parts[..brace]);
            braces(p, (p.first(node), &parts[brace..]), Key::Function, Key::Function);
        }
        Kind::ClassStatement | Kind::EnumStatement => {
            let Some(brace) = p.position(parts, Kind::OpenBrace) else { return false };
            for part in &parts[1..brace] {
                p.word(p.first(*part), u8::from(!p.is(*part, Kind::Comma)));
            }
            braces(p, (p.first(node), &parts[brace..]), Key::Type, Key::Type);
        }
        Kind::ClassMethodDefinition => method(p, node, parts),
        _ => return false,
    }
    true
}

/// Statements, and what a script asks for.
fn program(p: &mut Planner, parts: &[NodeId]) {
    let own = inside(p, parts);
    let lines = lines(p, &own, false);
    p.statements(&lines, GroupId::ROOT, 0, sort);
}

/// The statements that begin lines; what runs in the background stays behind what it is said of, and a
/// loop behind its label.
fn lines(p: &mut Planner, own: &[NodeId], all: bool) -> Vec<NodeId> {
    let lines = p.lines_of(own, all, is_end);
    let mut labelled = None;
    let mut first = Vec::new();
    for line in lines {
        let token = p.first(line);
        let follows = labelled.is_some() || p.is(line, Kind::BackgroundOperator);
        labelled = Some(line).filter(|line| p.is(*line, Kind::Label));
        match follows && !p.broken_before(token) && !first.is_empty() {
            true => p.word(token, 1),
            false => first.push(line),
        }
    }
    first
}

/// Whether a part only ends a statement.
pub(super) fn is_end(p: &Planner, part: NodeId) -> bool {
    matches!(Kind::at(p, part), Kind::Semicolon | Kind::EmptyStatement)
}

/// The statements of parts that hold some, among others.
pub(super) fn inside(p: &Planner, parts: &[NodeId]) -> Vec<NodeId> {
    let mut own = Vec::new();
    for part in parts {
        match Kind::at(p, *part) {
            Kind::StatementList
            | Kind::NamedBlockList
            | Kind::ScriptBlock
            | Kind::ScriptBlockBody => own.extend(inside(p, &p.parts(*part))),
            _ => own.push(*part),
        }
    }
    own
}

/// The parts of a list whose elements are in a node of their own, brackets and all.
pub(super) fn flattened(p: &Planner, parts: &[NodeId]) -> Vec<NodeId> {
    let mut all = Vec::new();
    for part in parts {
        match Kind::at(p, *part) {
            Kind::ParameterList
            | Kind::ClassMethodParameterList
            | Kind::AttributeArguments
            | Kind::ArgumentExpressionList => all.extend(p.parts(*part)),
            _ => all.push(*part),
        }
    }
    all
}

/// What a statement is to the blank lines around it. Functions on one line stand together.
fn sort(p: &Planner, node: NodeId) -> Sort {
    match Kind::at(p, node) {
        Kind::Command if p.token_text(p.first(node)).eq_ignore_ascii_case("using") => Sort::Import,
        Kind::FunctionStatement if p.is_spread(node) => Sort::Function,
        Kind::ClassStatement | Kind::EnumStatement if p.is_spread(node) => Sort::Type,
        Kind::ClassMethodDefinition if p.is_spread(node) => Sort::Member,
        _ => Sort::Other,
    }
}

/// `{ … }` behind a header that begins with `header`, by how `open_brace` and `flat_block` know it.
fn block(p: &mut Planner, block: NodeId, header: TokenId, key: Key, flat: Key) {
    let parts = p.parts(block);
    braces(p, (header, &parts), key, flat);
}

/// The same for braces that are no node of their own.
fn braces(
    p: &mut Planner,
    (header, parts): (TokenId, &[NodeId]),
    key: Key,
    flat: Key,
) {
    let [opener, .., closer] = parts else { return };
    let group = p.open_braces(p.first(*opener), p.end(*closer), header, key, flat);
    braced(p, header, parts, group);
}

/// What stands between two braces; with a group, on one line as long as it fits.
pub(super) fn braced(
    p: &mut Planner,
    header: TokenId,
    parts: &[NodeId],
    group: Option<GroupId>,
) {
    let [opener, own @ .., closer] = parts else { return };
    let (brace, end) = (p.first(*opener), p.first(*closer));
    let own = inside(p, own);
    if end == brace + 1 && !p.broken_before(end) {
        // `{}` and `{ }`: people write either.
        return p.keep_gap(end);
    }
    if own.is_empty() && !p.holds_lines(brace, end) {
        return p.inside_bracket(end, p.choices.block_gap);
    }
    if let Some(group) = group.filter(|_| !own.is_empty()) {
        p.group_mut(group).around = Around::OneLine;
        p.flat_lines(brace, &own, group, is_end);
        let first = p.first(own[0]);
        let inside = p.inside_both(first, end, p.choices.block_gap);
        for (token, level) in [(first, 1), (end, 0)] {
            let blanks = p.chosen(token, inside);
            p.may_break(token, group, level, blanks, Setting::InnerGap);
            p.gap(token).breaks = Setting::FlatBlock;
        }
        return p.line_ends_before(end, When::Open(group));
    }
    let is_flat = !p.broken_between(brace, end);
    let own = lines(p, &own, is_flat);
    p.line_ends_before(end, When::Always);
    let group = p.word_block(header, &own, *closer, sort);
    if let Some(command) = command_below(p, *opener, *closer) {
        p.stem(group, command);
    }
}

/// `(ebb)` behind a word.
fn asks(p: &mut Planner, parts: &[NodeId], is_header: bool) {
    if let [opener, ..] = parts {
        p.asks_in(*opener);
        asked(p, parts, is_header);
    }
}

/// `(ebb)`: the condition of a header, or a value.
fn asked(p: &mut Planner, parts: &[NodeId], is_header: bool) {
    if let [opener, inner, closer] = parts {
        let gap = p.choices.parens_gap;
        let group = p.enclosed(Shape::Chain, [*opener, *inner, *closer], gap, Key::Condition);
        // A brace on the next line sets the body apart.
        p.group_mut(group).header =
            is_header && !p.begins_next_line(p.end(*closer), Key::Control);
    } else {
        p.words(parts);
    }
}

/// `if (ebb) { … } elseif (flood) { … } else { … }`
fn if_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let parts = clauses(p, parts);
    let [_, opener, inner, closer, consequence, clauses @ ..] = &parts[..] else { return };
    asks(p, &[*opener, *inner, *closer], true);
    block(p, *consequence, p.first(node), Key::Control, Key::Control);
    go_on(p, node, clauses);
}

/// The parts of a statement, those clauses taken out of their node that are several.
fn clauses(p: &Planner, parts: &[NodeId]) -> Vec<NodeId> {
    let mut all = Vec::new();
    for part in parts {
        match Kind::at(p, *part) {
            Kind::ElseifClauses | Kind::CatchClauses => all.extend(p.parts(*part)),
            _ => all.push(*part),
        }
    }
    all
}

/// What goes on with a statement behind one of its blocks.
fn go_on(p: &mut Planner, node: NodeId, clauses: &[NodeId]) {
    // A value on one line stays there.
    let is_value = matches!(
        Kind::at(p, p.parent(node)),
        Kind::AssignmentExpression | Kind::HashEntry
    );
    for clause in clauses {
        let word = p.first(*clause);
        match is_value && !p.is_spread(node) {
            true => p.behind(word, Setting::ElseLine),
            false => p.goes_on(word, p.first(node), true),
        }
    }
}

/// `switch -Regex ($level) { … }`
fn switch_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, header @ .., inner] = parts else { return };
    for part in header {
        match p.token_text(p.first(*part)) {
            "(" => p.asks_in(*part),
            _ => p.word(p.first(*part), 1),
        }
    }
    p.open_brace(p.first(*inner), p.first(node), Key::Control);
}

fn switch_body(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let header = p.first(p.parent(node));
    let [opener, inner @ .., closer] = parts else { return };
    let mut all = vec![*opener];
    for part in inner {
        match p.is(*part, Kind::SwitchClauses) {
            true => all.extend(p.parts(*part)),
            false => all.push(*part),
        }
    }
    all.push(*closer);
    p.cases(&all, header);
}

/// `($i = 0; $i -lt 3; $i++)`: a line that ends there may end a clause, too.
fn for_clauses(p: &mut Planner, parts: &[NodeId]) {
    let [opener, inner @ .., closer] = parts else { return };
    p.asks_in(*opener);
    for part in inner.iter().skip(1) {
        let token = p.first(*part);
        match p.broken_before(token) {
            true => p.keep_gap(token),
            false => p.word(token, u8::from(!is_end(p, *part))),
        }
    }
    for edge in inner.first().into_iter().chain([closer]) {
        let token = p.first(*edge);
        match p.broken_before(token) {
            true => p.keep_gap(token),
            false => p.inside_bracket(token, p.choices.parens_gap),
        }
    }
}

/// `foreach ($gauge in $gauges) { … }`
fn foreach_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let (Some(_), [.., inner]) = (p.each_of(parts), parts) else { return };
    block(p, *inner, p.first(node), Key::Control, Key::Control);
}

/// `[CmdletBinding()] param ([int] $Level, …)`
fn param_block(p: &mut Planner, parts: &[NodeId]) {
    let Some(word) = p.position(parts, Kind::Param) else { return };
    if word > 0 {
        p.as_it_stands(p.first(parts[0]), p.first(parts[word]));
    }
    if let [_, list @ ..] = &parts[word..]
        && let Some(opener) = list.first()
    {
        let token = p.first(*opener);
        match p.broken_before(token) {
            true => p.as_it_stands(p.first(parts[word]), token),
            false => p.parens(token, p.choices.declaration_parens),
        }
        p.list(&flattened(p, list), List::new().declaration().stays_open());
    }
}

/// What leads a declaration, each on its line or behind the one before it.
fn attributes(p: &mut Planner, parts: &[NodeId]) {
    for pair in parts.windows(2) {
        led(p, p.first(parts[0]), p.first(pair[1]));
    }
}

/// What follows an attribute or a type: beside it, as `paren_gap` has it, or on the next line.
fn led(p: &mut Planner, start: TokenId, token: TokenId) {
    match p.broken_before(token) {
        true => p.as_it_stands(start, token),
        false => p.parens(token, p.choices.cast_gap),
    }
}

/// `[Parameter()] [int] $Level = 2`, `static [int] $Level`
fn declared(p: &mut Planner, parts: &[NodeId]) {
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        let is_word = p.is(parts[index - 1], Kind::ClassAttribute)
            || p.is(*part, Kind::ClassAttribute);
        match Kind::at(p, *part) {
            Kind::ScriptParameterDefault => p.operator(token, Key::Default),
            Kind::Equals => p.operator(token, Key::Assign),
            _ if p.is(parts[index - 1], Kind::Equals) => {
                let gap = p.beside(token, Key::Assign);
                p.assigned(token - 1, *part, gap, Setting::OperatorGap);
            }
            _ if is_word => p.word(token, 1),
            _ => led(p, p.first(parts[0]), token),
        }
    }
}

/// The parentheses of a function's parameters.
fn parameters(p: &mut Planner, parts: &[NodeId]) {
    if let Some(at) = p.position(parts, Kind::FunctionParameterDeclaration) {
        p.parens(p.first(parts[at]), p.choices.declaration_parens);
    }
}

/// `[int] Level([string] $name) { … }`
fn method(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let opener = p.position(parts, Kind::OpenParen);
    let brace = p.position(parts, Kind::OpenBrace);
    let (Some(opener), Some(brace)) = (opener, brace) else { return };
    declared(p, &parts[..opener]);
    p.parens(p.first(parts[opener]), p.choices.declaration_parens);
    p.list(&flattened(p, &parts[opener..brace]), List::new().declaration());
    braces(p, (p.first(node), &parts[brace..]), Key::Function, Key::Function);
}
