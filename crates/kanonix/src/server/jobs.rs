//! What is asked of a text: its mended form, what departs from the canon in it, what can be done
//! about that. Jobs run beside the session, on a copy of the text as it was when they were asked.

use super::positions::{Encoding, Places};
use super::session::Event;
use super::texts::Snapshot;
use crate::service::mending::{mend_loaded, unproved};
use kanonix_core::text::{Edit, LineSet, differences};
use kanonix_core::{Document, Mended, Outcome, Slip};
use kanonix_repo::work::{Desk, InPlay, Item, NotLoaded, Reach, Selection, WorkError};
use lsp_types::{Position, TextEdit};
use std::ops::Range;
use std::sync::{Arc, Mutex, PoisonError, mpsc};

/// Characters behind which a unit may just have been finished.
pub(super) const TYPED: [&str; 3] = ["\n", ";", "}"];

/// What a client may ask for once and for all.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(super) struct Wishes {
    /// Whether slips that are not in reach are shown too.
    pub older_slips: bool,
    /// Whether formatting a document means all of its lines.
    pub whole: bool,
    /// Whether the community's style counts on a save where nothing is agreed.
    pub without_canon: bool,
    /// Whether the client may ask what a save should change; else what is known of it decides.
    pub mend_on_save: Option<bool>,
}

/// Why a job has no result.
pub(super) enum Trouble {
    /// A canon is wrong, or git cannot be asked: what keeps more than this text from being mended.
    Everywhere(String),
    /// Something about this text.
    Here(String),
}

/// What jobs share.
#[derive(Clone)]
pub(super) struct Office {
    pub desk: Arc<Mutex<Desk>>,
    pub events: mpsc::Sender<Event>,
    pub encoding: Encoding,
    pub wishes: Wishes,
    pub acting: Acting,
}

/// When the edits of an action are made.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(super) enum Acting {
    /// The client asks for them once the action is chosen.
    Resolved,
    /// The action is a command, which the client sends back; the edits are then asked of it.
    Commanded,
    /// As the action is offered: the client can do neither.
    #[default]
    AtOnce,
}

/// A text with all that decides how it is judged.
pub(super) struct Opened {
    pub item: Item,
    pub document: Document<'static>,
    pub play: InPlay,
}

impl Office {
    /// What is known of a text on an occasion; nothing if it is left alone.
    pub fn case(&self, snapshot: &Snapshot, reach: &Reach) -> Result<Option<Opened>, Trouble> {
        let selection = self.select(snapshot, reach)?;
        let Some(item) = selection.items.first().cloned() else { return Ok(None) };
        let loaded = match selection.take(&item, snapshot.text().to_string()) {
            Ok(loaded) => loaded,
            Err(NotLoaded::LeftAlone(_)) => return Ok(None),
            Err(NotLoaded::Problem(reason)) => {
                return Err(Trouble::Here(format!("{}: {reason}", snapshot.path.display())));
            }
        };
        let document = snapshot.document(item.language);
        let parsed = Arc::new(document.clone());
        let _ = self.events.send(Event::Parsed(snapshot.uri.clone(), snapshot.stamp, parsed));
        Ok(Some(Opened { item, document, play: loaded.play }))
    }

    /// How far a save goes.
    pub fn saved(&self) -> Reach {
        Reach::Saved { without_canon: self.wishes.without_canon }
    }

    fn select(&self, snapshot: &Snapshot, reach: &Reach) -> Result<Selection, Trouble> {
        let mut desk = self.desk.lock().unwrap_or_else(PoisonError::into_inner);
        let language = match snapshot.is_file {
            true => None,
            false => snapshot.language(),
        };
        desk.select(&snapshot.path, language, reach).map_err(|error| match error {
            // A file in a folder that is not there yet.
            WorkError::NoSuchPath(_) => Trouble::Here(error.to_string()),
            _ => Trouble::Everywhere(error.to_string()),
        })
    }

    /// The edits that mend a text.
    pub fn mend(&self, snapshot: &Snapshot, reach: &Reach) -> Result<Vec<TextEdit>, Trouble> {
        let Some(case) = self.case(snapshot, reach)? else { return Ok(Vec::new()) };
        let mended = case.mended()?;
        Ok(self.edits(&case, &mended))
    }

    /// As [`Office::mend`] for a save, if the canon lists what made the editor save.
    pub fn mend_saved(
        &self,
        snapshot: &Snapshot,
        reason: lsp_types::TextDocumentSaveReason,
    ) -> Result<Vec<TextEdit>, Trouble> {
        let Some(case) = self.case(snapshot, &self.saved())? else { return Ok(Vec::new()) };
        let reasons = case.item.save_reasons;
        let listed = match reason {
            lsp_types::TextDocumentSaveReason::AFTER_DELAY => reasons.after_delay,
            lsp_types::TextDocumentSaveReason::FOCUS_OUT => reasons.focus_out,
            _ => reasons.manual,
        };
        if !listed {
            return Ok(Vec::new());
        }
        let mended = case.mended()?;
        Ok(self.edits(&case, &mended))
    }

    /// Mends the unit that a typed character has just finished.
    pub fn mend_typed(
        &self,
        snapshot: &Snapshot,
        position: Position,
        typed: &str,
    ) -> Result<Vec<TextEdit>, Trouble> {
        let whole = Reach::Whole;
        let Some(case) = self.case(snapshot, &whole)? else { return Ok(Vec::new()) };
        let text = case.document.text();
        let places = Places::new(text, self.encoding);
        let cursor = places.offset(position);
        let line_start = places.offset(Position { character: 0, ..position });
        // Only what lies before this is touched: the line that the cursor is on is still written,
        // and what was typed stays.
        let (line, before) = match typed {
            "\n" if position.line > 0 => (position.line - 1, line_start),
            "\n" => return Ok(Vec::new()),
            _ => (position.line, cursor.saturating_sub(typed.len())),
        };
        let rest = text[cursor..].lines().next().unwrap_or_default();
        if typed != "\n" && !rest.trim().is_empty() {
            return Ok(Vec::new());
        }
        let line = line as usize;
        let style = &case.item.style;
        let finished = case.document.units_at(style, line).is_some_and(|unit| unit.end <= line + 1);
        if !finished {
            return Ok(Vec::new());
        }
        let mended = case.document.mend(style, &LineSet::of([line..line + 1]));
        let mended = mended.map_err(|difference| case.unproved(&difference))?;
        let mut edits = differences(text, &mended.text);
        edits.retain(|edit| edit.range.end <= before && edit.range.start < before);
        Ok(places.edits(&edits))
    }

    /// What has to be done to a text so that it is mended.
    pub fn edits(&self, case: &Opened, mended: &Mended) -> Vec<TextEdit> {
        let text = case.document.text();
        match mended.text == text {
            true => Vec::new(),
            false => Places::new(text, self.encoding).edits(&differences(text, &mended.text)),
        }
    }
}

impl Opened {
    pub fn mended(&self) -> Result<Mended, Trouble> {
        mend_loaded(&self.item, &self.document, &self.play).map_err(Trouble::Here)
    }

    /// Mends the units on these lines.
    pub fn mended_lines(&self, lines: Range<usize>) -> Result<Mended, Trouble> {
        let mended = self.document.mend(&self.item.style, &LineSet::of([lines]));
        mended.map_err(|difference| self.unproved(&difference))
    }

    fn unproved(&self, difference: &kanonix_core::Difference) -> Trouble {
        Trouble::Here(unproved(&self.item, self.document.text(), difference))
    }

    pub fn judge(&self) -> Outcome {
        let set = self.play.lines(self.document.text());
        self.document.judge(&self.item.style, &set)
    }

    /// The edits that mend one slip and no other, if there are such.
    pub fn edits_at(&self, slip: &Slip) -> Option<Vec<Edit>> {
        let set = self.play.lines(self.document.text());
        self.document.edits_at(&self.item.style, &set, slip)
    }
}
