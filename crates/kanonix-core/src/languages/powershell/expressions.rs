//! Expressions and commands, in the grammar's order.

use super::kinds::Kind;
use super::statements::{braced, flattened, inside, is_end};
use crate::layout::plan::{Align, Around, Rows, Shape, Slight, When};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, Handed, List, Operators, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The operators that are marks, weak ones first; all others are words.
const OPERATORS: Operators = &[
    (Key::Logic, &["-and", "-or", "-xor"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "%", "\\"]),
];

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::Pipeline | Kind::PipelineChain => pipeline(p, node, parts),
        Kind::Command => command(p, node, parts),
        // The command plans them.
        Kind::CommandElements | Kind::CommandArgumentSep => {}
        Kind::Redirections => p.words(parts),
        Kind::Redirection | Kind::RedirectedFileName => {
            parts.iter().skip(1).for_each(|part| p.keep_gap(p.first(*part)));
        }
        // Nothing is assigned to a number: without blanks it may be the name of a command.
        Kind::AssignmentExpression
            if p.token_text(p.first(node)).starts_with(|c: char| c.is_ascii_digit()) =>
        {
            p.fix(node);
        }
        Kind::AssignmentExpression => {
            if let [_, sign, value] = parts {
                assigned(p, p.first(*sign), *value);
            }
        }
        Kind::LogicalExpression
        | Kind::BitwiseExpression
        | Kind::ComparisonExpression
        | Kind::AdditiveExpression
        | Kind::MultiplicativeExpression
        | Kind::FormatExpression
        | Kind::RangeExpression
        | Kind::LogicalArgumentExpression
        | Kind::BitwiseArgumentExpression
        | Kind::ComparisonArgumentExpression
        | Kind::AdditiveArgumentExpression
        | Kind::MultiplicativeArgumentExpression
        | Kind::FormatArgumentExpression
        | Kind::RangeArgumentExpression => {
            if let [left, sign, right] = parts {
                let operator = p.first(*sign);
                if p.token_text(operator) == ".." {
                    // Without blanks it may be the name of a command.
                    p.keep_gap(operator);
                    p.keep_gap(p.first(*right));
                    return true;
                }
                p.binary(Binary {
                    may_lead: false,
                    stand_in: stand_in(p, *right),
                    ..Binary::of(p, node, [*left, *sign, *right], OPERATORS)
                });
            }
        }
        Kind::ArrayLiteralExpression => {
            if p.handed_block(node).is_none() {
                values(p, node, parts);
            }
        }
        Kind::ExpressionWithUnaryOperator => {
            if let [operator, operand] = parts {
                let sign = p.token_text(p.first(*operator));
                if sign == "," {
                    // People write `,$level` and `, $level`.
                    p.keep_gap(p.first(*operand));
                    return true;
                }
                let is_word = sign.len() > 1;
                let gap = p.unfused(p.first(*operand), u8::from(is_word));
                p.word(p.first(*operand), gap);
            }
        }
        Kind::CastExpression => {
            if let [_, value] = parts {
                p.parens(p.first(*value), p.choices.cast_gap);
            }
        }
        Kind::ParenthesizedExpression => {
            if let [opener, inner, closer] = parts {
                let gap = p.choices.parens_gap;
                let group =
                    p.enclosed(Shape::Chain, [*opener, *inner, *closer], gap, Key::Condition);
                p.group_mut(group).stand_in = stand_in(p, *inner);
                if is_amid_arguments(p, node) || is_argument(p, node) && begins_command(p, *inner) {
                    p.by_hand(group);
                }
            }
        }
        Kind::SubExpression | Kind::ArrayExpression => collected(p, parts),
        Kind::ScriptBlockExpression => script_block(p, node, parts),
        Kind::HashLiteralExpression => hash(p, parts),
        Kind::HashLiteralBody => {}
        Kind::HashEntry => {
            if let [_, sign, value, ends @ ..] = parts {
                assigned(p, p.first(*sign), *value);
                ends.iter().for_each(|end| p.word(p.first(*end), 0));
            }
        }
        Kind::MemberAccess | Kind::InvokationExpression | Kind::InvokationForeachExpression => {
            for part in parts.iter().skip(1) {
                let token = p.first(*part);
                if p.is(*part, Kind::ScriptBlockExpression) {
                    p.keep_gap(token);
                } else if p.broken_before(token) {
                    // Somebody ended the line behind the point before a name.
                    let group = p.group(Shape::Chain, p.first(node), p.end(node));
                    p.stands_anywhere(group, Key::Call);
                    let own = p.group_mut(group);
                    (own.rows, own.slight) = (Rows::Any, Slight::Half);
                    p.may_break(token, group, p.choices.chain_steps, 0, Setting::WordGap);
                } else {
                    p.word(token, 0);
                }
            }
        }
        Kind::ElementAccess => {
            if let [_, opener, inner, closer] = parts {
                p.word(p.first(*opener), 0);
                for edge in [inner, closer] {
                    p.inside_bracket(p.first(*edge), p.choices.brackets_gap);
                }
            }
        }
        Kind::ArgumentList => {
            let parts = flattened(p, parts);
            let last = p.elements(&parts).last().and_then(|last| stand_in(p, *last));
            let by_hand = is_amid_arguments(p, node);
            p.list(&parts, List::new().stand_in(last).by_hand_if(by_hand));
        }
        Kind::ArgumentExpressionList | Kind::AttributeArguments => {}
        Kind::Attribute => attribute(p, parts),
        Kind::AttributeArgument => {
            if let [_, sign, value] = parts {
                p.sign(*sign, *value, Key::Default);
            }
        }
        _ => return false,
    }
    true
}

/// `$level = 2`; a command stays on the line of the sign, unless somebody put it on the next one.
fn assigned(p: &mut Planner, sign: TokenId, value: NodeId) {
    p.operator(sign, Key::Assign);
    let first = p.first(value);
    if begins_command(p, value) && !p.broken_before(first) {
        return p.operator(first, Key::Assign);
    }
    let gap = p.beside(first, Key::Assign);
    p.assigned(sign, value, gap, Setting::OperatorGap);
}

/// Whether a value is a command, or a pipeline that begins with one.
fn begins_command(p: &Planner, value: NodeId) -> bool {
    match Kind::at(p, value) {
        Kind::Pipeline | Kind::PipelineChain => {
            p.part(value, 0).is_some_and(|first| begins_command(p, first))
        }
        kind => kind == Kind::Command,
    }
}

/// `Get-Gauge | Where-Object { … }`: a line may end behind a bar.
fn pipeline(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.leading_chain(node, Key::Condition);
    let own = p.group_mut(group);
    (own.rows, own.align) = (Rows::Any, Align::Step);
    p.stands_anywhere(group, Key::Call);
    let mut behind_bar = false;
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match behind_bar {
            true => p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap),
            false => p.word(token, 1),
        }
        behind_bar = matches!(p.token_text(token), "|" | "||" | "&&");
    }
}

/// A command and its arguments: a line ends behind a comma where somebody has ended it.
fn command(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.group(Shape::Chain, p.first(node), p.end(node));
    p.group_mut(group).rows = Rows::Any;
    p.stands_anywhere(group, Key::Call);
    p.by_hand(group);
    let parts = match parts {
        [before @ .., last] if p.is(*last, Kind::CommandElements) => {
            [before, &p.parts(*last)].concat()
        }
        parts => parts.to_vec(),
    };
    for pair in parts.windows(2) {
        let token = p.first(pair[1]);
        match p.is(pair[0], Kind::Comma) && p.broken_before(token) {
            true => p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap),
            false => p.word(token, u8::from(!p.is(pair[1], Kind::Comma))),
        }
    }
}

/// The command among whose arguments something stands.
fn command_around(p: &Planner, node: NodeId) -> Option<NodeId> {
    let mut around = node;
    while p.tree.shows(p.first(around)) {
        around = p.parent(around);
        if p.is(around, Kind::Command) {
            return Some(around);
        }
    }
    None
}

/// The first token of a command, where somebody has an argument of it end as far in as the command's own line,
/// whichever line the argument begins on: its lines count from there.
pub(super) fn command_below(p: &Planner, opener: NodeId, closer: NodeId) -> Option<TokenId> {
    let command = p.first(command_around(p, p.parent(opener))?);
    let (brace, end) = (p.first(opener), p.first(closer));
    let is_below = p.choices.remembers
        && p.broken_before(end)
        && p.line_columns(end) == p.line_columns(command)
        && p.line_columns(brace) != p.line_columns(command);
    is_below.then_some(command)
}

/// Whether something is an argument of a command.
fn is_argument(p: &Planner, node: NodeId) -> bool {
    command_around(p, node).is_some()
}

/// Whether other arguments follow, too: no line is broken in it then.
fn is_amid_arguments(p: &Planner, node: NodeId) -> bool {
    command_around(p, node).is_some_and(|command| p.end(command) > p.end(node))
}

/// Values one after another.
fn values(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.group(Shape::Chain, p.first(node), p.end(node));
    let align = p.choices.aligns.of(Key::Call);
    let own = p.group_mut(group);
    (own.rows, own.align) = (Rows::Any, align);
    if p.end(node) > p.first(node) + 1 && p.tree.shows(p.first(node) + 1) {
        p.by_hand(group);
    }
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match p.is(*part, Kind::Comma) {
            true => p.word(token, 0),
            false => p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap),
        }
    }
}

/// Where a last argument can be broken in place of what it stands in.
fn stand_in(p: &Planner, node: NodeId) -> Option<TokenId> {
    match Kind::at(p, node) {
        Kind::HashLiteralExpression | Kind::ScriptBlockExpression | Kind::ArrayExpression => {
            p.inside(node)
        }
        _ => None,
    }
}

/// `@(…)` and `$(…)`: a list of values, or statements on lines of their own or on one.
fn collected(p: &mut Planner, parts: &[NodeId]) {
    let [opener, own @ .., closer] = parts else { return };
    let own = inside(p, own);
    if let [array] = own[..]
        && p.is(array, Kind::ArrayLiteralExpression)
    {
        let mut all = vec![*opener];
        all.extend(p.parts(array));
        all.push(*closer);
        if let Some(group) = p.list(&all, List::new().collection()) {
            p.hand(array, Handed::Block(group));
        }
        return;
    }
    let (brace, end) = (p.first(*opener), p.first(*closer));
    if own.is_empty() && !p.holds_lines(brace, end) {
        return p.inside_nothing(brace, end);
    }
    let gap = p.choices.parens_gap;
    if !p.broken_between(brace, end) {
        for part in own.iter().skip(1) {
            p.word(p.first(*part), u8::from(!is_end(p, *part)));
        }
        for edge in own.first().into_iter().chain([closer]) {
            p.inside_bracket(p.first(*edge), gap);
        }
        return;
    }
    if let [_] = own[..] {
        let group = p.enclosed(Shape::Chain, [*opener, own[0], *closer], gap, Key::Condition);
        p.group_mut(group).stand_in = stand_in(p, own[0]);
        return;
    }
    lines_between(p, (*opener, *closer), &own);
}

/// Lines of their own between two brackets.
fn lines_between(p: &mut Planner, (opener, closer): (NodeId, NodeId), own: &[NodeId]) {
    let lines = p.lines_of(own, false, is_end);
    let mut all = vec![opener];
    all.extend(lines);
    all.push(closer);
    let stem = command_below(p, opener, closer).unwrap_or(p.first(opener));
    p.block(&all, stem, |p, inner, group| {
        p.group_mut(group).bracketed = true;
        p.statements(inner, group, 1, |_, _| Sort::Other);
    });
}

/// `{ param ($level) $level * 2 }`, whose brace stays where it stands.
fn script_block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let (first, end) = (p.first(node), p.end(node));
    let is_flat = p.style.is(Setting::FlatBlock, Key::Lambda, "keep") && !p.is_spread(node);
    let group = (is_flat && end > first + 2).then(|| p.group(Shape::List, first, end));
    braced(p, first, parts, group);
}

/// `@{ level = 2; name = 'quay' }`, or an entry a line.
fn hash(p: &mut Planner, parts: &[NodeId]) {
    let [opener, own @ .., closer] = parts else { return };
    let entries: Vec<NodeId> = own.iter().flat_map(|part| p.parts(*part)).collect();
    let (brace, end) = (p.first(*opener), p.first(*closer));
    if entries.is_empty() {
        return match p.holds_lines(brace, end) {
            true => _ = p.stays_empty(parts, brace),
            false => p.inside_nothing(brace, end),
        };
    }
    let is_one = entries.len() == 1;
    if p.broken_between(brace, end) && (!is_one || p.choices.remembers) {
        return lines_between(p, (*opener, *closer), &entries);
    }
    let group = p.group(Shape::List, brace, end + 1);
    let own = p.group_mut(group);
    (own.around, own.one_each) = (Around::OneLine, true);
    if !is_one && !p.choices.remembers {
        // Lines of their own are not joined again.
        p.force(group);
    }
    let gap = p.inside_both(brace + 1, end, p.choices.braces_gap);
    for (index, entry) in entries.iter().enumerate() {
        let token = p.first(*entry);
        let blanks = if index == 0 { p.chosen(token, gap) } else { 1 };
        p.may_break(token, group, 1, blanks, Setting::InnerGap);
        p.line_ends_before(token, When::Open(group));
    }
    let blanks = p.chosen(end, gap);
    p.may_break(end, group, 0, blanks, Setting::InnerGap);
    p.line_ends_before(end, When::Open(group));
}

/// `[Parameter(Mandatory = $true)]`
fn attribute(p: &mut Planner, parts: &[NodeId]) {
    let [_, name, list @ .., closer] = parts else { return };
    p.word(p.first(*name), 0);
    p.word(p.first(*closer), 0);
    if let Some(opener) = list.first() {
        p.parens(p.first(*opener), p.choices.declaration_parens);
        p.list(&flattened(p, list), List::new());
    }
}
