//! A text with what the parser found in it: what judging and mending begin with.

pub(crate) mod deciding;
pub(crate) mod embedded;
mod in_part;
mod moving;
pub(crate) mod spelling;
mod wrapping;

use crate::languages::Language;
use crate::layout::Sheet;
use crate::layout::compare::{Comparison, Declared};
use crate::layout::moves::Rearranged;
use crate::proof::Changes;
use crate::style::{MemberOrder, Style};
use crate::syntax::{Grammar, Parsed, Role, Token, TokenId, Tree, Window};
use crate::text::{Bases, Edit, LineSet, Lines, apply, place_before};
use crate::{Difference, Mended, Outcome, Slip, Unjudged};
use std::borrow::Cow;
use wrapping::Looked;
use std::ops::Range;

/// How often a mended text is judged again. A second round with something to mend is rare: it takes
/// a comparison with the base that pairs other lines after the first, or a block that was opened.
const MOST_ROUNDS: usize = 16;

/// Stretches that are kept as they stand, as something about them would be otherwise.
#[derive(Default)]
struct Kept {
    ranges: Vec<Range<usize>>,
}

/// So often a single statement is kept more; then all of the text is.
const MOST_KEPT: usize = 12;

impl Kept {
    /// Keeps more of a text, as something at an offset would be otherwise: the statement there,
    /// what that is in, and in the end everything.
    fn widen(&mut self, grammar: &Grammar, tree: &Tree, offset: usize) {
        let mut next = tree.statement(grammar, offset, false);
        let is_kept = |range: &Range<usize>, ranges: &[Range<usize>]| {
            ranges.iter().any(|known| known.start <= range.start && range.end <= known.end)
        };
        if is_kept(&next, &self.ranges) {
            next = tree.statement(grammar, offset, true);
        }
        if is_kept(&next, &self.ranges) || self.ranges.len() >= MOST_KEPT {
            next = 0..usize::MAX;
        }
        self.ranges.push(next);
    }

    fn is_all(&self) -> bool {
        self.ranges.last().is_some_and(|range| *range == (0..usize::MAX))
    }
}

/// A text in a language, parsed. It may change little by little, as in an editor; then only what
/// changes is parsed again.
#[derive(Clone)]
pub struct Document<'a> {
    text: Cow<'a, str>,
    language: &'a Language,
    /// Nothing if the parser gives up.
    parsed: Option<Parsed>,
    /// Whether a mended text is parsed from where it differs, and not from its beginning.
    in_steps: bool,
    /// Whether all of a text is looked at where a part would do.
    looks_all_around: bool,
    /// What its outermost lines are indented by.
    depth: String,
}

impl<'a> Document<'a> {
    /// Parses a text.
    pub fn new(text: impl Into<Cow<'a, str>>, language: &'a Language) -> Document<'a> {
        let text = text.into();
        let parsed = Parsed::new(&language.grammar, &text);
        Document {
            text,
            language,
            parsed,
            in_steps: false,
            looks_all_around: false,
            depth: String::new(),
        }
    }

    /// As [`Document::new`], of a text that will change little by little.
    ///
    /// ```
    /// use kanonix_core::{Document, languages, text::{Edit, LineSet}};
    /// let python = languages::by_name("python").unwrap();
    /// let mut document = Document::in_steps("ebb = 1\n", python);
    /// document.change(&[Edit { range: 3..6, text: "=".into() }]);
    /// let mended = document.mend(&python.style(), &LineSet::of([0..1])).unwrap();
    /// assert_eq!((document.text(), mended.text.as_str()), ("ebb=1\n", "ebb = 1\n"));
    /// ```
    pub fn in_steps(text: impl Into<Cow<'a, str>>, language: &'a Language) -> Document<'a> {
        Document { in_steps: true, ..Document::new(text, language) }
    }

    /// The text.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// The language.
    pub fn language(&self) -> &'a Language {
        self.language
    }

    /// Changes the text; each edit speaks of the text that the ones before it made.
    pub fn change(&mut self, edits: &[Edit]) {
        let mut parsed = self.parsed.take().filter(|_| self.in_steps);
        let text = self.text.to_mut();
        for edit in edits {
            if let Some(parsed) = &mut parsed {
                parsed.edit(text, edit);
            }
            text.replace_range(edit.range.clone(), &edit.text);
        }
        let grammar = &self.language.grammar;
        self.parsed = match parsed {
            Some(parsed) => parsed.again(grammar, text),
            None => Parsed::new(grammar, text),
        };
    }

    /// This document after some ordered edits that do not overlap.
    fn after(&self, edits: &[Edit]) -> Document<'a> {
        if self.in_steps {
            return self.after_in_steps(edits);
        }
        let after = apply(&self.text, edits);
        let parsed = Parsed::new(&self.language.grammar, &after);
        Document { text: Cow::Owned(after), parsed, depth: self.depth.clone(), ..*self }
    }

    /// The same, parsed from where it differs, and not from its beginning.
    fn after_in_steps(&self, edits: &[Edit]) -> Document<'a> {
        let after = apply(&self.text, edits);
        let grammar = &self.language.grammar;
        let parsed = match self.parsed.clone() {
            Some(mut parsed) => {
                parsed.edit_all(&self.text, edits);
                parsed.again(grammar, &after)
            }
            None => Parsed::new(grammar, &after),
        };
        Document { text: Cow::Owned(after), parsed, depth: self.depth.clone(), ..*self }
    }

    /// The zero-based lines of the units that a line touches, if they may be mended.
    pub fn units_at(&self, style: &Style, line: usize) -> Option<Range<usize>> {
        if let Some((inner, own)) = self.embedded_at(style, line) {
            let units = inner.units_at(own.style(), line - own.lines.start)?;
            return Some(units.start + own.lines.start..units.end + own.lines.start);
        }
        let parsed = self.parsed.as_ref()?;
        let set = LineSet::of([line..line + 1]);
        let window = self.window(style, &set);
        let tree = self.tree(parsed, style, window.as_ref());
        let sheet = self.sheet(&tree, style);
        let units = sheet.live_lines(&set);
        Some(units.first()?.start..units.iter().map(|unit| unit.end).max()?)
    }

    /// How many lines have something on them that is neither blank nor a comment.
    pub fn code_lines(&self) -> usize {
        let Some(parsed) = &self.parsed else { return 0 };
        let tree = Tree::copy(&self.language.grammar, parsed, &self.text, None);
        let lines = Lines::new(&self.text);
        let line_of = |place: u32| lines.line_of(place as usize);
        let mut next = 0;
        let code = tree.tokens.iter().filter(|token| token.role != Role::Comment);
        let new_lines = code.map(|token| {
            let (first, behind) = (line_of(token.start).max(next), line_of(token.end) + 1);
            next = next.max(behind);
            behind.saturating_sub(first)
        });
        new_lines.sum()
    }

    /// Whether [`Document::keep`] may find something to do: a look that costs little.
    pub fn may_keep(&self, style: &Style, line: usize) -> bool {
        if let Some((inner, own)) = self.embedded_at(style, line) {
            return inner.may_keep(own.style(), line - own.lines.start);
        }
        self.language.line_comment.is_some()
            && !self.has_faults()
            && self.units_at(style, line).is_some()
    }

    /// The edit that asks, in a comment, for the construct on a line to be kept as it stands; none
    /// where no comment can.
    pub fn keep(&self, style: &Style, line: usize) -> Option<Edit> {
        if let Some((inner, own)) = self.embedded_at(style, line) {
            let Edit { range, text } = inner.keep(own.style(), line - own.lines.start)?;
            let start = own.start();
            return Some(Edit { range: range.start + start..range.end + start, text });
        }
        let mark = self.language.line_comment?;
        let first = self.units_at(style, line)?.start;
        let lines = Lines::new(&self.text);
        let start = lines.start(first);
        let rest = &self.text[start..];
        let indentation = &rest[..rest.len() - rest.trim_start_matches([' ', '\t']).len()];
        let end = lines.line_end().as_str();
        let text = format!("{indentation}{mark} {}{end}", Sheet::KEEP);
        let edit = Edit { range: start..start, text };
        let kept = self.after(std::slice::from_ref(&edit));
        let set = LineSet::of([line + 1..line + 2]);
        // Where it is read as anything but such a comment, the line is still laid out.
        let holds = kept.units_at(style, line + 1).is_none() && kept.judge(style, &set).is_clean();
        (holds && !self.has_faults() && !kept.has_faults()).then_some(edit)
    }

    /// The edits that mend one slip of those lines and no other, if they alone leave the program as
    /// it is.
    pub fn edits_at(&self, style: &Style, set: &LineSet, slip: &Slip) -> Option<Vec<Edit>> {
        let (outcome, tree) = self.judged(style, set, false, None);
        let tree = tree?;
        let end = slip.offset + slip.length;
        let chosen = |wanted: &dyn Fn(&Range<usize>) -> bool| -> Vec<Edit> {
            outcome.edits.iter().filter(|edit| wanted(&edit.range)).cloned().collect()
        };
        // A slip of a token changes that; one of a gap, the gaps beside what it names.
        let mut edits = chosen(&|range| range.start < end && range.end > slip.offset);
        if edits.is_empty() {
            edits = chosen(&|range| {
                let touches = range.start <= end && range.end >= slip.offset;
                touches && self.text[range.clone()].trim().is_empty()
            });
        }
        if edits.is_empty() {
            return None;
        }
        let is_changed = |declared: &&Declared| {
            let token = &tree.tokens[declared.token as usize];
            let (start, end) = (token.start as usize, token.end as usize);
            edits.iter().any(|edit| edit.range.start <= end && edit.range.end > start)
        };
        let declared: Vec<Declared> = outcome.declared.iter().filter(is_changed).cloned().collect();
        let after = self.after(&edits);
        let parsed = after.parsed.as_ref()?;
        let mut new = Tree::copy(&self.language.grammar, parsed, &after.text, None);
        if tree.in_words {
            new.split_texts(&self.language.grammar, &after.text);
        }
        let embedded = &outcome.embedded;
        let rearranged: Vec<Rearranged> = match outcome.rearranged.first() {
            Some(Rearranged::Dropped(all)) => {
                let start = |gone: &Range<TokenId>| tree.tokens[gone.start as usize].start as usize;
                let goes = |gone: &&Range<TokenId>| {
                    edits.iter().any(|edit| edit.range.contains(&start(gone)))
                };
                vec![Rearranged::Dropped(all.iter().filter(goes).cloned().collect())]
            }
            _ => Vec::new(),
        };
        let said = Changes { declared: &declared, rearranged: &rearranged };
        let proof = self.prove(&tree, (&new, &after.text), &edits, said, embedded);
        proof.is_ok().then_some(edits)
    }

    /// The tree that the text is laid out by.
    fn tree(&self, parsed: &Parsed, style: &Style, window: Option<&Window>) -> Tree {
        let grammar = &self.language.grammar;
        let mut tree = Tree::copy(grammar, parsed, &self.text, window);
        if Sheet::looks_at_words(style) {
            tree.split_texts(grammar, &self.text);
        }
        tree
    }

    /// The text as it is to be laid out.
    fn sheet<'s>(&'s self, tree: &'s Tree, style: &'s Style) -> Sheet<'s> {
        Sheet::new(tree, &self.text, style, self.language.rule).at_depth(&self.depth)
    }

    fn has_faults(&self) -> bool {
        self.parsed.as_ref().is_none_or(Parsed::has_faults)
    }

    /// Judges the lines of `set`.
    pub fn judge(&self, style: &Style, set: &LineSet) -> Outcome {
        self.judged(style, set, false, self.window(style, set).as_ref()).0
    }

    /// As [`Document::judge`], from all of the tree, however few lines are in play. What the other
    /// one is held against.
    pub fn judge_all_around(&self, style: &Style, set: &LineSet) -> Outcome {
        let all = Document { looks_all_around: true, ..self.clone() };
        all.judged(style, set, false, None).0
    }

    /// As [`Document::judge`], and counts the slips on all the other lines too.
    pub fn judge_with_older(&self, style: &Style, set: &LineSet) -> Outcome {
        self.judged(style, set, true, None).0
    }

    /// What has to be looked at closely; `None` if that is everything.
    fn window(&self, style: &Style, set: &LineSet) -> Option<Window> {
        let parsed = self.parsed.as_ref()?;
        let all = set.is_whole() || set.turned_from().is_some();
        let is_whole = all || self.language.grammar.is_seen_whole(&self.text);
        // A new member is held against all of them, where they have an order; a name may be mentioned
        // anywhere, and a paragraph that is filled is one unit, however many elements it takes.
        let is_whole = is_whole
            || MemberOrder::is_asked(style)
            || Sheet::drops_imports(style)
            || Sheet::looks_at_words(style);
        if is_whole || parsed.has_faults() || Sheet::may_keep(&self.text) {
            return None;
        }
        Window::of(set, &Lines::new(&self.text), &self.text)
    }

    /// The outcome, and the tree that it speaks of.
    ///
    /// Where a stretch does not parse, what is laid out around it may change how the parser
    /// recovers. So such a text is mended and looked at again here, and what would change that is
    /// kept as it stands: more and more of it, until nothing does.
    fn judged(
        &self,
        style: &Style,
        set: &LineSet,
        count_older: bool,
        window: Option<&Window>,
    ) -> (Outcome, Option<Tree>) {
        let (outcome, tree) = self.judged_but(style, set, count_older, window, &[]);
        match tree {
            Some(tree) if !outcome.is_clean() && !tree.faults.is_empty() => {
                self.settled(style, set, count_older, outcome, tree)
            }
            tree => (outcome, tree),
        }
    }

    fn settled(
        &self,
        style: &Style,
        set: &LineSet,
        count_older: bool,
        mut outcome: Outcome,
        mut tree: Tree,
    ) -> (Outcome, Option<Tree>) {
        let mut kept = Kept::default();
        while !outcome.is_clean() {
            let Err(offset) = self.stands(style, set, &outcome, &tree) else { break };
            if kept.is_all() {
                return (outcome.without_edits(), Some(tree));
            }
            kept.widen(&self.language.grammar, &tree, offset);
            let (next, around) = self.judged_but(style, set, count_older, None, &kept.ranges);
            let Some(around) = around else { return (next, None) };
            (outcome, tree) = (next, around);
        }
        (outcome, Some(tree))
    }

    /// Whether a text with faults is the same program once these edits are made, and nothing is
    /// left to do then; if not, where in this text something is otherwise.
    fn stands(
        &self,
        style: &Style,
        set: &LineSet,
        outcome: &Outcome,
        tree: &Tree,
    ) -> Result<(), usize> {
        let (after, _) = self.proved(outcome, tree, None).map_err(
            |difference| difference.offset(),
        )?;
        if !set.is_whole() {
            return Ok(());
        }
        let (again, _) = after.judged_but(style, set, false, None, &[]);
        let Some(edit) = again.edits.first() else { return Ok(()) };
        Err(place_before(self.text.len(), &outcome.edits, edit.range.start).0)
    }

    /// As [`Document::judged`] at the first look, with some stretches kept as they stand.
    fn judged_but(
        &self,
        style: &Style,
        set: &LineSet,
        count_older: bool,
        window: Option<&Window>,
        kept: &[Range<usize>],
    ) -> (Outcome, Option<Tree>) {
        let Some(parsed) = &self.parsed else {
            return (
                Outcome { unjudged: Some(Unjudged::Parser), ..Outcome::default() },
                None,
            );
        };
        let may_embed = self.language.embeds.is_some();
        if set.is_empty() && !count_older && !parsed.has_faults() && !may_embed {
            return (Outcome::default(), None);
        }
        let mut tree = self.tree(parsed, style, window);
        kept.iter().for_each(|range| tree.keep(range.clone()));
        let faults = tree.faults.clone();
        if window.is_some() && !faults.is_empty() {
            return self.judged_but(style, set, count_older, None, kept);
        }
        if tree.nodes.first().is_none_or(|root| root.fault) {
            return (Outcome { faults, ..Outcome::default() }, None);
        }
        let sheet = self.sheet(&tree, style);
        // What stands in a page in another language is as far in as the page has it.
        if !may_embed && sheet.has_doubtful_steps(set, style) {
            set.look_inside(&self.text, |text| self.lines_inside_tokens(text));
        }
        let compared = set.base().is_some_and(|base| !base.is_empty());
        let reshapes = compared && !set.keeps_shape() && sheet.reshapes(set);
        if reshapes && window.is_some() {
            return self.judged_but(style, set, count_older, None, kept);
        }
        let moved = if reshapes { self.moved_lines(&sheet, &tree, style, set) } else { None };
        let all = moved.as_ref().unwrap_or(set);
        let within = self.within(style, &tree);
        let own_lines = within.iter().filter(|own| !own.is_inline(&self.text));
        let own_lines: Vec<Range<usize>> = own_lines.map(|own| own.lines.clone()).collect();
        let outside = (!own_lines.is_empty() && !all.is_whole()).then(|| all.outside(&own_lines));
        let set = outside.as_ref().unwrap_or(all);
        let comparison = sheet.judge(set);
        let older = if count_older && !set.is_whole() {
            sheet.judge(&LineSet::whole()).slips.len().saturating_sub(comparison.slips.len())
        } else {
            0
        };
        let looked = Looked { tree: &tree, window, kept };
        let comparison = self.with_moves(style, set, &looked, comparison, MOST_ROUNDS);
        let Comparison { edits, slips, declared, rearranged, .. } = comparison;
        let mut long_lines = sheet.long_lines(set, &edits);
        long_lines.retain(|line| !own_lines.iter().any(|own| own.contains(line)));
        let remarks = sheet.remarks(set);
        let outcome = Outcome {
            edits,
            slips,
            faults,
            long_lines,
            remarks,
            older,
            refused: None,
            unjudged: None,
            declared,
            rearranged,
            embedded: Vec::new(),
        };
        let outcome = match within.is_empty() {
            true => outcome,
            false => self.with_embedded(style, all, count_older, &tree, within, outcome),
        };
        (outcome, Some(tree))
    }

    /// The lines of a text that go on with a token of several: what they are indented by is not the code's.
    fn lines_inside_tokens(&self, text: &str) -> Vec<Range<u32>> {
        let Some(tree) = Tree::parse(&self.language.grammar, text) else { return Vec::new() };
        let lines = Lines::new(text);
        let line_of = |byte: u32| lines.line_of(byte as usize) as u32;
        let says = |token: &&Token| matches!(
            token.role,
            Role::Atom | Role::Comment | Role::Heredoc
        );
        let several = tree.tokens.iter().filter(|token| token.multi_line).filter(says);
        several.map(|token| line_of(token.start) + 1..line_of(token.end - 1) + 1).collect()
    }

    /// The line set with the lines that have another nesting than in the base. Where something has begun
    /// and does not end, the nesting is not to be known yet.
    fn moved_lines(
        &self,
        sheet: &Sheet,
        now: &Tree,
        style: &Style,
        set: &LineSet,
    ) -> Option<LineSet> {
        let base = set.base()?;
        let mut tree = Tree::parse(&self.language.grammar, base)?;
        if Sheet::looks_at_words(style) {
            tree.split_texts(&self.language.grammar, base);
        }
        let unfinished = |tree: &Tree, text: &str| self.language.grammar.unfinished(tree, text);
        let begins = unfinished(now, &self.text) > unfinished(&tree, base);
        if begins || !tree.faults.is_empty() {
            return None;
        }
        let before = Sheet::new(&tree, base, style, self.language.rule).at_depth(&self.depth);
        Some(sheet.with_moved(set, &before))
    }

    /// Mends the lines of `set`, and proves that the program is the same.
    ///
    /// # Errors
    /// The [`Difference`] that the mended text would make. It is a fault of Kanonix, never of the
    /// text.
    pub fn mend(&self, style: &Style, set: &LineSet) -> Result<Mended, Difference> {
        let (outcome, after) = self.mended(style, set);
        self.result(outcome, after.map(|after| after.text.into_owned()))
    }

    /// What a mending comes to: a refusal only where nothing else could be mended.
    fn result(&self, outcome: Outcome, text: Option<String>) -> Result<Mended, Difference> {
        match (text, &outcome.refused) {
            (None, Some(difference)) => Err(difference.clone()),
            (text, _) => {
                Ok(Mended { text: text.unwrap_or_else(|| self.text.to_string()), outcome })
            }
        }
    }

    /// What was judged, and the mended text if anything had to change.
    fn mended(&self, style: &Style, set: &LineSet) -> (Outcome, Option<Document<'a>>) {
        let (mut outcome, mut now) = self.written(style, set);
        let mut last = None;
        for _ in 0..MOST_ROUNDS {
            let Some(after) = now.take() else { break };
            // Where all lines are in play, a flat block that had to be opened may leave what is
            // around it room.
            if outcome.refused.is_none() && set.is_whole() {
                let next;
                (next, now) = after.written(style, set);
                outcome.refused = next.refused;
            }
            last = Some(after);
        }
        if now.is_some() {
            outcome.unjudged = Some(Unjudged::Rounds);
            return (outcome, None);
        }
        (outcome, last)
    }

    /// What is judged, and the text after its edits with their proof; none if there are no edits.
    /// Where the proof fails, the statement that it fails in stays, and the rest is mended.
    fn written(&self, style: &Style, set: &LineSet) -> (Outcome, Option<Document<'a>>) {
        let window = self.window(style, set);
        if window.is_some()
            && let Ok(done) = self.written_in(style, set, window.as_ref())
        {
            return done;
        }
        let (first, mut tree) = self.judged(style, set, false, None);
        let (mut outcome, mut kept) = (first.clone(), Kept::default());
        loop {
            let Some(around) = tree.filter(|_| !outcome.is_clean()) else {
                return (Outcome { refused: outcome.refused, ..first }, None);
            };
            match self.proved(&outcome, &around, None) {
                Ok((after, _)) => return (
                    Outcome { refused: outcome.refused, ..first },
                    Some(after),
                ),
                Err(difference) => {
                    let refused = outcome.refused.take().or(Some(difference.clone()));
                    if kept.is_all() {
                        return (Outcome { refused, ..first }, None);
                    }
                    kept.widen(&self.language.grammar, &around, difference.offset());
                    (outcome, tree) = self.judged_but(style, set, false, None, &kept.ranges);
                    outcome.refused = refused;
                }
            }
        }
    }

    fn written_in(
        &self,
        style: &Style,
        set: &LineSet,
        window: Option<&Window>,
    ) -> Result<(Outcome, Option<Document<'a>>), Difference> {
        let (outcome, tree) = self.judged(style, set, false, window);
        let Some(tree) = tree.filter(|_| !outcome.is_clean()) else { return Ok((outcome, None)) };
        let (after, _) = self.proved(&outcome, &tree, window)?;
        Ok((outcome, Some(after)))
    }

    /// The text after an outcome's edits, with its tree and its proof.
    fn proved(
        &self,
        outcome: &Outcome,
        tree: &Tree,
        window: Option<&Window>,
    ) -> Result<(Document<'a>, Tree), Difference> {
        let Outcome { edits, declared, rearranged, embedded, .. } = outcome;
        let after = self.after(edits);
        let Some(parsed) = &after.parsed else {
            return Err(Difference::Shape { offset: 0 });
        };
        // A tree that was copied whole after all is compared whole.
        let window = window.filter(|_| tree.is_folded()).map(|window| window.after(edits));
        let grammar = &self.language.grammar;
        let mut new = Tree::copy(grammar, parsed, &after.text, window.as_ref());
        if tree.in_words {
            new.split_texts(grammar, &after.text);
        }
        let said = Changes { declared, rearranged };
        self.prove(tree, (&new, &after.text), edits, said, embedded)?;
        Ok((after, new))
    }

    /// Mends the lines that are in play beside these bases, until a comparison with them finds
    /// nothing more to mend.
    ///
    /// # Errors
    /// As [`Document::mend`].
    pub fn mend_since(&self, bases: &Bases, style: &Style) -> Result<Mended, Difference> {
        let (mut outcome, mut now) = self.mended(style, &bases.lines(&self.text));
        let mut text = None;
        for _ in 0..MOST_ROUNDS {
            let Some(after) = now.take() else { break };
            if outcome.refused.is_none() {
                let next;
                (next, now) = after.mended(style, &bases.lines(&after.text));
                outcome.refused = next.refused;
                outcome.unjudged = next.unjudged;
            }
            text = Some(after.text.into_owned());
        }
        if now.is_some() || outcome.unjudged.is_some() {
            outcome.unjudged = outcome.unjudged.or(Some(Unjudged::Rounds));
            text = None;
        }
        self.result(outcome, text)
    }
}
