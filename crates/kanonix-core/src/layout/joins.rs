//! Marks that join a line to the next one: the line after such a mark is indented from its
//! statement as chains are, or two steps where the statement opens a block that would otherwise begin
//! at the same column. Where operators stay lined up, it may stand under something before it.

use super::choices::Aligns;
use super::plan::{Align, Gap, Group, Plan, Shape, Want};
use super::measure::columns;
use super::standing::tabs_further;
use crate::style::{Key, Setting, Style};
use crate::syntax::{Role, Tree};

/// Gives the gaps around every join their wants.
pub(super) fn place(plan: &mut Plan, tree: &Tree, text: &str, style: &Style) {
    if !tree.has(Role::Join) {
        return;
    }
    let align = Aligns::of_style(style).of(Key::Condition);
    let steps = style.number(Setting::WrapIndent, Key::Chain).map_or(1, |steps| steps as u8);
    let before = |token: usize| {
        let start = tree.tokens[token].start as usize;
        let line = text[..start].rfind('\n').map_or(0, |at| at + 1);
        &text[line..start]
    };
    let column = |token: usize| columns(before(token), style.tab_columns());
    // Further in by tabs alone where steps are tabs, it stands under something by chance.
    let in_tabs = style.indent_step().starts_with('\t');
    let is_in_steps = |start: usize, next: usize| {
        let indentation = before(start);
        let stem = &indentation[..indentation.len() - indentation.trim_start().len()];
        in_tabs && align == Align::Any && tabs_further(stem, before(next)).is_some()
    };
    for index in 1..tree.tokens.len().saturating_sub(1) {
        if tree.tokens[index].role != Role::Join {
            continue;
        }
        let next = index + 1;
        let alone = tree.tokens[next].role == Role::Plain || tree.tokens[next].role == Role::Atom;
        if plan.gaps[next].want != Want::Flat || !alone {
            plan.gaps[index] = Gap::KEPT;
            plan.gaps[next] = Gap::KEPT;
            continue;
        }
        let start = (0..=index).rev().find(|at| plan.gaps[*at].want == Want::Line).unwrap_or(0);
        let level = if opens_block(plan, tree, start, next) { steps.max(2) } else { steps };
        let own = column(next);
        // What begins a line itself stands nowhere yet.
        let is_over = |token: &usize| tree.tokens[*token].role != Role::Join
            && !tree.tokens[*token].broken
            && column(*token) == own;
        let may_stand = align.asks_the_text() && !is_in_steps(start, next);
        let over = (start + 1..index).rev().find(is_over).filter(|_| may_stand);
        let under = over.map(|token| token as u32);
        let like = Some(next as u32).filter(|_| align == Align::Any && under.is_none());
        let group = Group { under, like, ..Group::new(Shape::Block, start as u32, next as u32) };
        let group = plan.add(group);
        plan.gaps[index] = Gap::flat(1, Setting::WordGap);
        let line = Gap {
            want: Want::Newline,
            level,
            breaks: Setting::IndentSize,
            group: Some(group),
            ..Gap::KEPT
        };
        plan.gaps[next] = line;
        // Values without brackets that begin behind it, and have lines of their own, keep them and stand
        // where the first does.
        let begins_there = |list: &Group| list.first as usize == next;
        let behind_comma = |at: usize| {
            let before = tree.tokens[..at].iter().rev().find(|token| token.role != Role::Comment);
            before.is_some_and(|token| &text[token.start as usize..token.end as usize] == ",")
        };
        let mut at = next + 1;
        while at < tree.tokens.len() && plan.gaps[at].want != Want::Line {
            let is_own = plan.gaps[at].want == Want::Break
                && plan.group_of(at).is_some_and(begins_there)
                && behind_comma(at);
            match tree.broken(at, text) {
                true if is_own => plan.gaps[at] = line,
                false if is_own => plan.gaps[at].level = 0,
                _ => {}
            }
            at += 1;
        }
    }
}

/// Whether the next line that starts a unit begins a block of the statement that starts at `start`.
fn opens_block(plan: &Plan, tree: &Tree, start: usize, from: usize) -> bool {
    let next = (from..tree.tokens.len()).find(|index| plan.gaps[*index].want == Want::Line);
    next.is_some_and(|next| {
        let is_own = plan.group_of(next).is_some_and(|group| group.first as usize == start);
        plan.gaps[next].level > 0 && is_own
    })
}
