//! What can be done about a place in an open text.

use super::diagnostics::of_slip;
use super::jobs::{Acting, Opened, Office, Trouble};
use super::positions::Places;
use super::session::Event;
use super::texts::Snapshot;
use kanonix_core::text::LineSet;
use kanonix_core::{Outcome, Slip};
use kanonix_repo::work::Reach;
use lsp_types::{
    CodeAction, CodeActionKind, CodeActionOrCommand, CodeActionParams, Command, TextEdit,
    WorkspaceEdit,
};
use serde::{Deserialize, Serialize};
use std::collections::HashMap;

/// The commands that a client sends back.
pub(super) const MEND: &str = "kanonix.mend";
pub(super) const EXPLAIN: &str = "kanonix.explain";
pub(super) const ACT: &str = "kanonix.act";

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
        let act = |title: String, kind: &str, what: What| -> Result<Option<CodeAction>, Trouble> {
            let mut action = CodeAction {
                title,
                kind: Some(CodeActionKind::from(kind.to_string())),
                ..CodeAction::default()
            };
            if self.acting == Acting::AtOnce {
                action.edit = of_text(snapshot, self.edits_of(&case, &what)?);
                return Ok(action.edit.is_some().then_some(action));
            }
            let (uri, version) = (snapshot.uri.to_string(), snapshot.version);
            let asked = serde_json::to_value(Asked { uri: uri.clone(), version, what }).ok();
            match self.acting {
                Acting::Commanded => {
                    let arguments = Some([Some(uri.into()), asked].into_iter().flatten().collect());
                    let title = action.title.clone();
                    action.command = Some(Command { title, command: ACT.into(), arguments });
                }
                _ => action.data = asked,
            }
            Ok(Some(action))
        };
        let mut actions: Vec<CodeAction> = Vec::new();
        let (first, last) = (asked.range.start.line as usize, asked.range.end.line as usize);
        let first = first.min(last);
        // Judged once, whatever is offered of it.
        let judges = is_in_reach && (wants("quickfix") || wants("source.fixAll.kanonix"));
        let outcome = if judges { case.judge() } else { Outcome::default() };
        if wants("quickfix") {
            let near = outcome.slips.iter().filter(|slip| {
                let line = places.position(slip.offset).line as usize;
                (first..=last).contains(&line)
            });
            for slip in near.take(MOST_SLIPS) {
                let what = What::Slip { offset: slip.offset, message: slip.message.clone() };
                if let Some(mut action) = act(format!("Mend: {}", slip.message), "quickfix", what)?
                {
                    action.diagnostics = Some(vec![of_slip(&places, slip, false)]);
                    actions.push(action);
                }
            }
            let lines = LineSet::of([first..last + 1]);
            if !case.document.judge(&case.item.style, &lines).is_clean() {
                let title = match first == last {
                    true => format!("Mend what is on line {}", first + 1),
                    false => format!("Mend what is on lines {} to {}", first + 1, last + 1),
                };
                actions.extend(act(title, "quickfix", What::Lines { first, last })?);
            }
        }
        if wants("source.fixAll.kanonix") && !outcome.is_clean() {
            let title = "Mend the lines in reach".to_string();
            actions.extend(act(title, "source.fixAll.kanonix", What::Reach)?);
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
        if wants("refactor.rewrite.kanonix.keep") && case.document.may_keep(&case.item.style, first)
        {
            let title = "Keep this as it stands".to_string();
            actions.extend(
                act(title, "refactor.rewrite.kanonix.keep", What::Keep { line: first })?,
            );
        }
        Ok(actions.into_iter().map(CodeActionOrCommand::CodeAction).collect())
    }

    /// An action with the edits that it was offered without.
    pub fn resolve(
        &self,
        snapshot: &Snapshot,
        mut action: CodeAction,
        asked: &Asked,
    ) -> Result<CodeAction, Trouble> {
        action.edit = of_text(snapshot, self.edits_for(snapshot, asked)?);
        Ok(action)
    }

    /// The edits of an action that was offered without; none for a text that has changed since.
    pub fn edits_for(&self, snapshot: &Snapshot, asked: &Asked) -> Result<Vec<TextEdit>, Trouble> {
        if asked.version != snapshot.version {
            return Ok(Vec::new());
        }
        let case = match self.case(snapshot, &self.saved())? {
            Some(case) => Some(case),
            None => self.case(snapshot, &Reach::Whole)?,
        };
        case.map_or(Ok(Vec::new()), |case| self.edits_of(&case, &asked.what))
    }

    /// Asks the client to make these edits.
    pub fn apply(&self, snapshot: &Snapshot, edits: Vec<TextEdit>) {
        if !edits.is_empty() {
            let _ = self.events.send(Event::Apply(snapshot.uri.clone(), edits));
        }
    }

    /// The edits of an action.
    fn edits_of(&self, case: &Opened, what: &What) -> Result<Vec<TextEdit>, Trouble> {
        let places = Places::new(case.document.text(), self.encoding);
        Ok(match what {
            What::Slip { offset, message } => {
                let outcome = case.judge();
                let same = |slip: &&Slip| slip.offset == *offset && slip.message == *message;
                let Some(slip) = outcome.slips.iter().find(same) else { return Ok(Vec::new()) };
                match case.edits_at(slip) {
                    Some(edits) => places.edits(&edits),
                    None => {
                        let line = places.position(slip.offset).line as usize;
                        self.edits(case, &case.mended_lines(line..line + 1)?)
                    }
                }
            }
            What::Lines { first, last } => self.edits(case, &case.mended_lines(*first..last + 1)?),
            What::Reach => self.edits(case, &case.mended()?),
            What::Keep { line } => {
                let edit = case.document.keep(&case.item.style, *line);
                edit.map(|edit| places.edits(&[edit])).unwrap_or_default()
            }
        })
    }
}

/// What an action does, as it goes to the client and comes back.
#[derive(Debug, Serialize, Deserialize)]
pub(super) struct Asked {
    pub uri: String,
    version: i32,
    what: What,
}

#[derive(Debug, Serialize, Deserialize)]
#[serde(rename_all = "camelCase")]
enum What {
    Slip { offset: usize, message: String },
    Lines { first: usize, last: usize },
    Reach,
    Keep { line: usize },
}

/// The edits of a text as the protocol has them, if there are any.
fn of_text(snapshot: &Snapshot, edits: Vec<TextEdit>) -> Option<WorkspaceEdit> {
    let uri = snapshot.uri.as_str().parse().ok().filter(|_| !edits.is_empty())?;
    Some(WorkspaceEdit {
        changes: Some(HashMap::from([(uri, edits)])),
        ..WorkspaceEdit::default()
    })
}
