//! What can be done about a place in an open text.

use super::diagnostics::of_slip;
use super::jobs::{Office, Trouble};
use super::positions::Places;
use super::texts::Snapshot;
use kanonix_core::Outcome;
use kanonix_core::text::Edit;
use kanonix_repo::work::Reach;
use lsp_types::{
    CodeAction, CodeActionKind, CodeActionOrCommand, CodeActionParams, Command, TextEdit,
    WorkspaceEdit,
};
use std::collections::HashMap;

/// The commands that a client sends back.
pub(super) const MEND: &str = "kanonix.mend";
pub(super) const EXPLAIN: &str = "kanonix.explain";

/// The kinds of action that are offered, the protocol's own and finer ones of them.
pub(super) const KINDS: [&str; 5] = [
    "quickfix",
    "source.fixAll.kanonix",
    "source.kanonix.whole",
    "source.kanonix.explain",
    "refactor.rewrite.kanonix.keep",
];

/// So many slips of a range have an action of their own.
const MOST_SLIPS: usize = 20;

impl Office {
    /// The actions for a range.
    pub fn actions(
        &self,
        snapshot: &Snapshot,
        asked: &CodeActionParams,
    ) -> Result<Vec<CodeActionOrCommand>, Trouble> {
        let in_reach = self.case(snapshot, &self.saved())?;
        let is_in_reach = in_reach.is_some();
        // What the canon keeps out of reach can still be mended by name.
        let case = match in_reach {
            Some(case) => case,
            None => match self.case(snapshot, &Reach::Whole)? {
                Some(case) => case,
                None => return Ok(Vec::new()),
            },
        };
        let text = case.document.text();
        let places = Places::new(text, self.encoding);
        let wants = |kind: &str| match &asked.context.only {
            Some(only) => only.iter().any(|wanted| {
                let rest = kind.strip_prefix(wanted.as_str());
                rest.is_some_and(|rest| rest.is_empty() || rest.starts_with('.'))
            }),
            None => true,
        };
        let of_this = |edits: Vec<TextEdit>| {
            let uri = snapshot.uri.as_str().parse().ok()?;
            Some(WorkspaceEdit {
                changes: Some(HashMap::from([(uri, edits)])),
                ..WorkspaceEdit::default()
            })
        };
        let act = |title: String, kind: &str, edits: Vec<TextEdit>| CodeAction {
            title,
            kind: Some(CodeActionKind::from(kind.to_string())),
            edit: of_this(edits),
            ..CodeAction::default()
        };
        let mut actions: Vec<CodeAction> = Vec::new();
        let (first, last) = (asked.range.start.line as usize, asked.range.end.line as usize);
        let first = first.min(last);
        if wants("quickfix") {
            let outcome = if is_in_reach { case.judge() } else { Outcome::default() };
            let near = outcome.slips.iter().filter(|slip| {
                let line = places.position(slip.offset).line as usize;
                (first..=last).contains(&line)
            });
            for slip in near.take(MOST_SLIPS) {
                let edits: Option<Vec<Edit>> = case.edits_at(slip);
                let edits = match edits {
                    Some(edits) => places.edits(&edits),
                    None => {
                        let line = places.position(slip.offset).line as usize;
                        self.edits(&case, &case.mended_lines(line..line + 1)?)
                    }
                };
                let title = format!("Mend: {}", slip.message);
                let mut action = act(title, "quickfix", edits);
                action.diagnostics = Some(vec![of_slip(&places, slip, false)]);
                actions.push(action);
            }
            let units = self.edits(&case, &case.mended_lines(first..last + 1)?);
            if !units.is_empty() {
                let lines = match first == last {
                    true => format!("Mend what is on line {}", first + 1),
                    false => format!("Mend what is on lines {} to {}", first + 1, last + 1),
                };
                actions.push(act(lines, "quickfix", units));
            }
        }
        if wants("source.fixAll.kanonix") && is_in_reach {
            let edits = self.edits(&case, &case.mended()?);
            if !edits.is_empty() {
                let title = "Mend the lines in reach".to_string();
                actions.push(act(title, "source.fixAll.kanonix", edits));
            }
        }
        let uri = snapshot.uri.as_str();
        let command = |title: &str, kind: &str, command: &str, argument: serde_json::Value| {
            let arguments = Some(vec![uri.into(), argument]);
            let title = title.to_string();
            CodeAction {
                title: title.clone(),
                kind: Some(CodeActionKind::from(kind.to_string())),
                command: Some(Command { title, command: command.into(), arguments }),
                ..CodeAction::default()
            }
        };
        if wants("source.kanonix.whole") {
            let title = "Mend the whole file";
            actions.push(command(title, "source.kanonix.whole", MEND, "whole".into()));
        }
        if wants("source.kanonix.explain") {
            let title = format!("Explain line {}", first + 1);
            let argument = (first + 1).into();
            actions.push(command(&title, "source.kanonix.explain", EXPLAIN, argument));
        }
        if wants("refactor.rewrite.kanonix.keep")
            && let Some(edit) = case.document.keep(&case.item.style, first)
        {
            let title = "Keep this as it stands".to_string();
            actions.push(act(title, "refactor.rewrite.kanonix.keep", places.edits(&[edit])));
        }
        Ok(actions.into_iter().map(CodeActionOrCommand::CodeAction).collect())
    }
}
