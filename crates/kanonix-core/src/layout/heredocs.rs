//! Texts that begin with the end of the line that they are announced on (`<<EOS`): what stands on that
//! line stays on it, and a line begins behind them.

use super::plan::{Gap, GroupId, Plan, Want};
use crate::style::Setting;
use crate::syntax::{Role, Tree};

/// Gives the gaps around every such text their wants. A group that would break the line of one stays as
/// it stands, and so does one that goes on behind one, unless somebody opened it.
pub(super) fn place(plan: &mut Plan, tree: &Tree) {
    let mut at = if tree.has(Role::Heredoc) { 0 } else { tree.tokens.len() };
    while at < tree.tokens.len() {
        if tree.tokens[at].role != Role::Heredoc {
            at += 1;
            continue;
        }
        let first = at;
        while tree.tokens.get(at).is_some_and(|token| token.role == Role::Heredoc) {
            plan.gaps[at] = Gap::flat(0, Setting::TrimTrailingWhitespace);
            at += 1;
        }
        let mut kept: Vec<GroupId> = Vec::new();
        let starts_line =
            |token: &usize| tree.tokens[*token].broken || tree.tokens[*token].multi_line;
        let line = (0..first).rev().take_while(|token| !starts_line(token));
        for token in line {
            let gap = plan.gaps[token];
            if matches!(gap.want, Want::Line | Want::Newline | Want::Break) {
                kept.extend(gap.group.filter(|_| gap.want == Want::Break));
                plan.gaps[token] = unbroken(gap);
            }
        }
        let is_comment = |next: &usize| {
            tree.tokens.get(*next).is_some_and(|token| token.role == Role::Comment)
        };
        let next = (at..).find(|next| !is_comment(next)).unwrap_or(at);
        let gap = plan.gaps[next];
        match (gap.want, gap.group) {
            (Want::Line | Want::Newline, _) => {}
            (Want::Break, Some(group)) => {
                match plan.is_opened(group, tree) {
                    true => plan.groups[group].force(),
                    false => kept.push(group),
                }
            }
            _ => {
                plan.gaps[next] = Gap::KEPT;
                // A bracket behind what it closes.
                let ends = |group: &GroupId| plan.groups[*group].end as usize == next + 1;
                let closed: Vec<GroupId> = plan.groups.ids().filter(ends).collect();
                for group in closed {
                    match plan.is_opened(group, tree) {
                        true => plan.groups[group].force(),
                        false => kept.push(group),
                    }
                }
            }
        }
        for group in kept {
            keep(plan, tree, group);
        }
    }
}

/// A gap that may be broken without the line break.
fn unbroken(gap: Gap) -> Gap {
    match gap.want {
        Want::Break => Gap { column: gap.column, ..Gap::flat(gap.blanks, gap.setting) },
        _ => Gap::KEPT,
    }
}

/// All places where a group may be broken stay as they stand.
fn keep(plan: &mut Plan, tree: &Tree, group: GroupId) {
    for at in plan.groups[group].first..=plan.groups[group].end {
        if let Some(gap) = plan.gaps.get_mut(at as usize)
            && gap.group == Some(group)
            && gap.want == Want::Break
        {
            let is_broken = tree.tokens.get(at as usize).is_some_and(|token| token.broken);
            *gap = if is_broken { Gap::KEPT } else { unbroken(*gap) };
        }
    }
    plan.rewrites.retain(|rewrite| rewrite.change.group() != Some(group));
}
