//! Lines of a text that are in another language. They are judged as a text of their own, whose
//! outermost lines stand as far in as the line that they belong to asks for; what is said of them
//! is said of the bytes and the lines of the text around them. To that they are one token, which
//! may be respelt: that it is the same program is proved in its own language.

use super::Document;
use super::spelling::{Spelling, Spelt};
use crate::languages::{self, Language, Passage};
use crate::layout::compare::{Declared, Slip};
use crate::layout::indent::Mixing;
use crate::layout::plan::{Remark, TreeEdit};
use crate::proof::{self, Changes, Difference};
use crate::style::{Key, Setting, Style, Value};
use crate::syntax::{TokenId, Tree};
use crate::text::{Edit, LineSet, Lines, apply, become_of};
use crate::Outcome;
use std::ops::Range;

/// What was found in such lines, as far as the proof asks for it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Inner {
    /// The token that they are in.
    token: TokenId,
    /// Where they stand in the text.
    bytes: Range<usize>,
    /// The name of their language.
    language: &'static str,
    /// How they are spelt, where that is otherwise than they read.
    spelling: Option<&'static Spelling>,
    /// The changes to their tokens.
    declared: Vec<Declared>,
}

/// Such lines, before they are judged.
pub(super) struct Within<'s> {
    passage: Passage,
    /// The passage as it reads.
    spelt: Spelt,
    /// The zero-based lines of the text that they are.
    pub lines: Range<usize>,
    style: &'s Style,
}

impl Within<'_> {
    /// Whether it is a part of a line, which the text around it has its share in.
    pub(super) fn is_inline(&self, text: &str) -> bool {
        self.is_respelt() || !text[..self.passage.bytes.start].ends_with('\n')
    }

    /// Whether it reads otherwise than it is spelt.
    fn is_respelt(&self) -> bool {
        self.passage.spelling.is_some()
    }

    /// What of it is in play, where these lines of the text are; `base` is what it was.
    fn in_play(&self, set: &LineSet, base: Option<&str>) -> LineSet {
        if !self.is_respelt() {
            return set.part(self.lines.clone(), base);
        }
        match base {
            _ if !set.touches(self.lines.clone()) => LineSet::default(),
            Some(base) => LineSet::between(base, &format!("{}\n", self.spelt.text)),
            None => LineSet::of([0..Lines::new(&self.spelt.text).count()]),
        }
    }

    /// The lines as a text, indented by `depth`.
    fn document(&self, depth: String) -> Option<Document<'static>> {
        let language = languages::by_name(self.passage.language)?;
        let own = &self.spelt.text;
        let end = if own.contains("\r\n") { "\r\n" } else { "\n" };
        Some(Document { depth, ..Document::new(format!("{own}{end}"), language) })
    }
}

/// The edits that lie in some bytes, counted from the first of these.
fn edits_within(edits: &[Edit], bytes: &Range<usize>) -> Vec<Edit> {
    let inside = |edit: &&Edit| bytes.start <= edit.range.start && edit.range.end <= bytes.end;
    let moved = |edit: &Edit| Edit {
        range: edit.range.start - bytes.start..edit.range.end - bytes.start,
        text: edit.text.clone(),
    };
    edits.iter().filter(inside).map(moved).collect()
}

impl Document<'_> {
    /// What stands in the text in other languages: these, and what is said in them.
    pub fn passages(&self) -> Vec<(&'static Language, String)> {
        let Some(embeds) = &self.language.embeds else { return Vec::new() };
        let Some(parsed) = &self.parsed else { return Vec::new() };
        let tree = Tree::copy(&self.language.grammar, parsed, &self.text, None);
        let found = (embeds.find)(&tree, &self.text).into_iter();
        let said = |own: Passage| {
            let spelt = Spelt::read(&self.text[own.bytes], own.spelling)?;
            Some((languages::by_name(own.language)?, spelt.text))
        };
        found.filter_map(said).collect()
    }

    /// The lines that are in another language for which something is agreed.
    pub(super) fn within<'s>(&self, style: &'s Style, tree: &Tree) -> Vec<Within<'s>> {
        let Some(embeds) = &self.language.embeds else { return Vec::new() };
        let lines = Lines::new(&self.text);
        let of = |passage: Passage| {
            let token = passage.token as usize;
            let is_kept = tree.tokens[token].fault || tree.keeps(token);
            let style = style.embedded(passage.language).filter(|_| !is_kept)?;
            let first = lines.line_of(passage.bytes.start);
            let last = lines.line_of(passage.bytes.end.saturating_sub(1));
            let spelt = Spelt::read(&self.text[passage.bytes.clone()], passage.spelling)?;
            Some(Within { passage, spelt, lines: first..last + 1, style })
        };
        (embeds.find)(tree, &self.text).into_iter().filter_map(of).collect()
    }

    /// An outcome with what is said of the lines in other languages, where `edits` are made around
    /// them.
    pub(super) fn with_embedded(
        &self,
        style: &Style,
        set: &LineSet,
        count_older: bool,
        tree: &Tree,
        within: Vec<Within>,
        mut outcome: Outcome,
    ) -> Outcome {
        // How lines end inside is not said twice.
        let is_inside = |at: usize| {
            let next = within.partition_point(|own| own.passage.bytes.start < at);
            next > 0 && at < within[next - 1].passage.bytes.end
        };
        outcome.edits.retain(|edit| !is_inside(edit.range.end));
        outcome.slips.retain(|slip| {
            // An end of a line is one of the line that it ends.
            let ends_line = slip.setting == Setting::EndOfLine;
            !is_inside(slip.offset + usize::from(ends_line))
        });
        // Nor is what holds it spelt in another way at the same time.
        let holds = |declared: &Declared| {
            within.binary_search_by_key(&declared.token, |own| own.passage.token).is_ok()
        };
        let mut respelt: Vec<Range<usize>> = Vec::new();
        outcome.declared.retain(|declared| {
            let holds = holds(declared);
            if holds {
                let token = &tree.tokens[declared.token as usize];
                respelt.push(token.start as usize..token.end as usize);
            }
            !holds
        });
        respelt.sort_unstable_by_key(|token| token.start);
        outcome.edits.retain(|edit| {
            let next = respelt.partition_point(|token| token.end <= edit.range.start);
            respelt.get(next).is_none_or(|token| edit.range.end <= token.start)
        });
        outcome.slips.retain(|slip| {
            respelt.binary_search_by_key(&slip.offset, |token| token.start).is_err()
        });
        let around = outcome.edits.clone();
        let mut base: Option<Vec<String>> = None;
        let count = within.len();
        for (place, own) in within.into_iter().enumerate() {
            let depth = self.depth_of(style, tree, &own.passage, &around);
            let is_inline = own.is_inline(&self.text);
            let depth = if is_inline { String::new() } else { depth };
            let Some(document) = own.document(depth) else { continue };
            let own_set = if set.is_whole() {
                LineSet::whole()
            } else {
                let base = base.get_or_insert_with(|| self.embedded_base(style, set));
                let base = base.get(place).filter(|_| base.len() == count);
                own.in_play(set, base.map(String::as_str))
            };
            let mut found = document.judged(own.style, &own_set, count_older, None).0;
            if is_inline {
                // What would need lines of its own stays where it is.
                if !own.is_respelt() && found.edits.iter().any(|edit| edit.text.contains('\n')) {
                    continue;
                }
                found.long_lines.clear();
            }
            add(&mut outcome, own, found);
        }
        // What is put behind the last token there comes before the gap that follows.
        outcome.edits.sort_by_key(|edit| (edit.range.start, edit.range.end));
        outcome.slips.sort_by_key(|slip| slip.offset);
        outcome.faults.sort_by_key(|fault| fault.start);
        outcome.long_lines.sort_unstable();
        outcome.remarks.sort_by_key(|remark| remark.bytes.start);
        outcome
    }

    /// The same lines in what the text is compared with, one by one.
    fn embedded_base(&self, style: &Style, set: &LineSet) -> Vec<String> {
        let Some(base) = set.base() else { return Vec::new() };
        let document = Document::new(base, self.language);
        let Some(tree) = Tree::parse(&self.language.grammar, base) else { return Vec::new() };
        let lines = |own: Within| format!("{}\n", own.spelt.text);
        document.within(style, &tree).into_iter().map(lines).collect()
    }

    /// What the outermost lines in another language are indented by, once the text around them has
    /// these edits.
    fn depth_of(&self, style: &Style, tree: &Tree, passage: &Passage, edits: &[Edit]) -> String {
        let stem = tree.tokens[passage.stem as usize].start as usize;
        let start = self.text[..stem].rfind('\n').map_or(0, |at| at + 1);
        let blanks = |line: &str| line.len() - line.trim_start_matches([' ', '\t']).len();
        let mixing = Mixing::of(style, false);
        let far = |line: &str| mixing.read(&line[..blanks(line)]).len();
        let present = start + blanks(&self.text[start..stem]);
        let after = become_of(&self.text, edits, start..present);
        let base = &after[..blanks(&after)];
        let is_further = match style.get(Setting::PageIndent, Key::Embedded) {
            Value::Flag(flag) => flag,
            _ => {
                let lines = self.text[passage.bytes.clone()].lines();
                let least = lines.filter(|line| !line.trim().is_empty()).map(far).min();
                least.is_some_and(|least| least > far(&self.text[start..present]))
            }
        };
        let step = if is_further { style.indent_step() } else { String::new() };
        format!("{base}{step}")
    }

    /// Proves that a text with these edits is the same program: what is in other languages in
    /// those.
    pub(super) fn prove(
        &self,
        tree: &Tree,
        (new, after): (&Tree, &str),
        edits: &[Edit],
        Changes { declared, rearranged }: Changes,
        embedded: &[Inner],
    ) -> Result<(), Difference> {
        let mut declared = declared.to_vec();
        for inner in embedded {
            let own = edits_within(edits, &inner.bytes);
            if own.is_empty() {
                continue;
            }
            inner.prove(&self.text, &own).map_err(|difference| {
                difference.moved(inner.bytes.start)
            })?;
            let token = &tree.tokens[inner.token as usize];
            let bytes = token.start as usize..token.end as usize;
            let respelt = apply(&self.text[bytes.clone()], &edits_within(edits, &bytes));
            let change = TreeEdit::Respell(respelt);
            declared.push(Declared { token: inner.token, change });
        }
        declared.sort_by_key(|declared| declared.token);
        let changes = Changes { declared: &declared, rearranged };
        proof::prove(tree, &self.text, new, after, changes)
    }

    /// The lines in another language that a line is one of, as a text of their own.
    pub(super) fn embedded_at<'s>(
        &self,
        style: &'s Style,
        line: usize,
    ) -> Option<(Document<'static>, Within<'s>)> {
        self.language.embeds.as_ref()?;
        let tree = Tree::copy(&self.language.grammar, self.parsed.as_ref()?, &self.text, None);
        let mut all = self.within(style, &tree).into_iter();
        let own = all.find(|own| own.lines.contains(&line) && !own.is_inline(&self.text))?;
        let depth = self.depth_of(style, &tree, &own.passage, &[]);
        Some((own.document(depth)?, own))
    }
}

impl<'s> Within<'s> {
    /// The style of these lines.
    pub(super) fn style(&self) -> &'s Style {
        self.style
    }

    /// Where they begin in the text.
    pub(super) fn start(&self) -> usize {
        self.passage.bytes.start
    }
}

/// Adds what was found in some lines to what is said of the text around them.
fn add(outcome: &mut Outcome, own: Within, found: Outcome) {
    let Within { passage, spelt, lines, .. } = own;
    let start = passage.bytes.start;
    let moved = |range: Range<usize>| {
        let places = spelt.places(&range);
        places.start + start..places.end + start
    };
    // How the last line ends is not its language's to say.
    let is_inside = |range: &Range<usize>| range.end <= spelt.text.len();
    if found.unjudged.is_some() {
        outcome.faults.push(passage.bytes.clone());
        return;
    }
    let edits = found.edits.into_iter().filter(|edit| is_inside(&edit.range));
    outcome.edits.extend(edits.map(|Edit { range, text }| {
        let text = passage.spelling.map(|spelling| (spelling.write)(&text)).unwrap_or(text);
        Edit { range: moved(range), text }
    }));
    let slips = found.slips.into_iter().filter(|slip| slip.offset < spelt.text.len());
    outcome.slips.extend(slips.map(|slip| {
        let bytes = moved(slip.offset..slip.offset + slip.length);
        Slip { offset: bytes.start, length: bytes.len(), ..slip }
    }));
    outcome.faults.extend(found.faults.into_iter().map(moved));
    outcome.long_lines.extend(found.long_lines.into_iter().map(|line| line + lines.start));
    let remarks = found.remarks.into_iter();
    outcome.remarks.extend(
        remarks.map(|remark| Remark { bytes: moved(remark.bytes), ..remark }),
    );
    outcome.older += found.older;
    let Passage { token, bytes, language, spelling, .. } = passage;
    let declared = found.declared;
    outcome.embedded.push(Inner { token, bytes, language, spelling, declared });
}

impl Inner {
    /// Proves that these lines with these edits are the same program.
    fn prove(&self, text: &str, edits: &[Edit]) -> Result<(), Difference> {
        let unread = Difference::Shape { offset: 0 };
        let Some(language) = languages::by_name(self.language) else { return Err(unread) };
        let bytes = &text[self.bytes.clone()];
        let read = |bytes: &str| Spelt::read(bytes, self.spelling);
        let (Some(spelt), Some(new)) = (read(bytes), read(&apply(bytes, edits))) else {
            return Err(unread);
        };
        let (before, after) = (format!("{}\n", spelt.text), new.text + "\n");
        let parse = |text: &str| Tree::parse(&language.grammar, text);
        let (Some(tree), Some(new)) = (parse(&before), parse(&after)) else { return Err(unread) };
        let is_made = |declared: &&Declared| {
            let token = &tree.tokens[declared.token as usize];
            let own = spelt.places(&(token.start as usize..token.end as usize));
            edits.iter().any(|edit| edit.range.start <= own.end && edit.range.end > own.start)
        };
        let declared: Vec<Declared> = self.declared.iter().filter(is_made).cloned().collect();
        proof::prove(&tree, &before, &new, &after, Changes::of(&declared))
    }
}
