//! Marks that join a line to the next one: the line after such a mark is indented from its unit, one
//! step, or two where the unit opens a block that would otherwise begin at the same column.

use super::plan::{Gap, OWN_UNIT, Plan, Want};
use crate::style::Setting;
use crate::syntax::{Role, Tree};

/// Gives the gaps around every join their wants.
pub(super) fn place(plan: &mut Plan, tree: &Tree) {
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
        let level = if opens_block(plan, tree, next) { 2 } else { 1 };
        plan.gaps[index] = Gap::flat(1, Setting::WordGap);
        plan.gaps[next] = Gap {
            want: Want::Newline,
            level,
            breaks: Setting::IndentSize,
            group: OWN_UNIT,
            ..Gap::KEPT
        };
    }
}

/// Whether the next line that starts a unit begins a block that opens in this one.
fn opens_block(plan: &Plan, tree: &Tree, from: usize) -> bool {
    let next = (from..tree.tokens.len()).find(|index| plan.gaps[*index].want == Want::Line);
    next.is_some_and(|next| {
        let gap = &plan.gaps[next];
        gap.level > 0 && plan.groups[gap.group as usize].first as usize >= from
    })
}
