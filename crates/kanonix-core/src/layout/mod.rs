//! The engine: it decides the text of each gap between two tokens, and knows no language.
//!
//! Its passes, in the order in which they run. Each one finds what those above it leave true.
//!
//! | pass | what it leaves true |
//! | --- | --- |
//! | [`planner`] | every gap between two tokens that no comment and no join stands beside has a want, and belongs to a group if it may be a line; rewrites name their tokens in the order of the text |
//! | `joins` | so do the gaps around joins, which stay on the ends of their lines |
//! | `comments` | so do the gaps around comments; what a comment keeps open is forced open |
//! | `measure::force` | a list that may not stay flat around lines, and has some inside, is forced open: from here on nobody changes when a group opens |
//! | `units` | every token is in one unit, units are runs of tokens, and each begins at a line or at one that stands in the text |
//! | `measure` | every width is one subtraction |
//! | `columns`, `comment_columns` | gaps that neighbouring lines have lined up have as many blanks as that takes, and comments that are lined up know where they stand |
//! | `live` | every unit is live or not, moved or not, and has its anchor; units that share a line share their fate |
//! | `steps` | every unit has the step that it is indented by |
//! | `fill`, `still`, `own_place`, `forms`, `worth` | every group has its form, and every gap in play its text; the others are as they were |
//! | [`compare`] | each gap whose text is another one is an edit and a slip, in the order of the text |
//! | `unused`, [`members`], [`moves`] | what has to go, or else change places, is named, and how the text is once it has |
//!
//! What is above `live` is a [`Sheet`]: it is the same whichever lines are in play. Only
//! [`planner`] and its [`vocabulary`] are seen by the languages.

mod agree;
mod alike;
mod choices;
mod columns;
mod comment_columns;
pub mod compare;
mod comments;
mod fill;
mod first_words;
mod forms;
mod handed;
mod heredocs;
pub mod indent;
mod joins;
pub mod kept;
mod lined_up;
mod live;
mod measure;
pub mod members;
pub mod moves;
mod nesting;
mod old_steps;
mod own_place;
pub mod plan;
pub mod planner;
mod remember;
mod seen;
mod signs;
mod slight;
mod standing;
mod steps;
mod still;
mod units;
mod unused;
pub mod vocabulary;
mod worth;

use crate::style::{Key, Setting, Style};
use crate::syntax::{Token, TokenId, Tree};
use crate::text::{Edit, LineSet, Lines};
use compare::Comparison;
use indent::Mixing;
use live::Live;
use measure::Measures;
use plan::{ByGroup, GroupId, Plan, Remark};
use planner::{Planner, Rule};
use std::ops::Range;
use units::Units;

/// All that can be said about a text before it is known which lines are in play.
pub struct Sheet<'a> {
    tree: &'a Tree,
    text: &'a str,
    style: &'a Style,
    lines: Lines,
    plan: Plan,
    units: Units,
    measures: Measures,
    /// The tokens that groups are lined up with, in the order of the text.
    heads: Vec<(TokenId, GroupId)>,
    /// Where comments stand that are lined up.
    comments: comment_columns::CommentColumns,
    /// The rows that begin with numbers, or names, that end in one column.
    first_words: first_words::FirstWords,
    /// What the outermost lines are indented by.
    depth: &'a str,
    mixing: Mixing,
}

/// The settings that say on which side of a sign a line ends.
pub const PLACES: [Setting; 3] = [Setting::OperatorPlace, Setting::TernaryPlace, Setting::DotPlace];

impl<'a> Sheet<'a> {
    /// The text of a token.
    fn token_text(&self, token: usize) -> &'a str {
        let token = &self.tree.tokens[token];
        &self.text[token.start as usize..token.end as usize]
    }

    /// Plans the whole text with a language's rule for a node.
    pub fn new(
        tree: &'a Tree,
        text: &'a str,
        style: &'a Style,
        rule: Rule,
    ) -> Sheet<'a> {
        let lines = Lines::new(text);
        let mut plan = Planner::new(tree, text, style).run(rule);
        heredocs::place(&mut plan, tree);
        joins::place(&mut plan, tree, text, style);
        comments::place(&mut plan, tree, text, style, &lines);
        measure::force(&mut plan, tree, text);
        let units = units::find(&plan, tree, text, &lines);
        let mut measures = Measures::new(&plan, tree, text, style.tab_columns());
        let keeps = |key| style.is(Setting::Columns, key, "keep");
        let first_words = first_words::find(&plan, tree, text, style, &lines);
        if keeps(Key::Value) || keeps(Key::Table) {
            columns::place(
                &mut plan,
                tree,
                text,
                style,
                &lines,
                &mut measures,
                &first_words,
            );
        }
        let comments = comment_columns::of_comments(&plan, tree, text, style, &lines, &measures);
        plan.sort_groups();
        let under = |group| Some((plan.groups[group].under?, group));
        let mut heads: Vec<_> = plan.groups.ids().filter_map(under).collect();
        heads.sort_unstable();
        let depth = "";
        Sheet {
            tree,
            text,
            style,
            lines,
            plan,
            units,
            measures,
            heads,
            comments,
            first_words,
            depth,
            mixing: Mixing::of(style, tree.indented),
        }
    }

    /// The same of a text whose outermost lines are indented by this.
    pub fn at_depth(self, depth: &'a str) -> Sheet<'a> {
        Sheet { depth: self.mixing.read(depth), ..self }
    }

    /// What a comment says that asks for the next construct to be kept.
    pub const KEEP: &'static str = kept::KEEP;

    /// Whether the words of texts are laid out, and not their lines.
    pub fn looks_at_words(style: &Style) -> bool {
        style.is(Setting::TextFill, Key::Whole, "width")
    }

    /// Whether imports go that nothing mentions.
    pub fn drops_imports(style: &Style) -> bool {
        style.is(Setting::UnusedImports, Key::Whole, "drop")
    }

    /// Whether a comment may ask for a stretch to be kept.
    pub fn may_keep(text: &str) -> bool {
        kept::may_ask(text)
    }

    /// The comments that ask for one.
    pub fn keeps(tree: &Tree, text: &str) -> Vec<kept::Keep> {
        kept::asked(tree, text)
    }

    /// Holds the text against what is wanted on these lines.
    pub fn judge(&self, set: &LineSet) -> Comparison {
        let live = self.live(set);
        if live.nothing() && set.is_empty() {
            return Comparison::default();
        }
        let filling = fill::fill(self, &live, set, self.style);
        compare::compare(self, &filling, &live, set, self.style)
    }

    /// What is said of the lines of a set and no mending changes.
    pub fn remarks(&self, set: &LineSet) -> Vec<Remark> {
        let line = |byte: usize| self.lines.line_of(byte);
        let is_in_play = |remark: &&Remark| {
            set.touches(line(remark.bytes.start)..line(remark.bytes.end) + 1)
        };
        let own = self.plan.remarks.iter().filter(is_in_play).cloned();
        own.chain(self.hidden(set)).collect()
    }

    /// Of each branch that the grammar was not shown, what of it is in play.
    fn hidden(&self, set: &LineSet) -> impl Iterator<Item = Remark> {
        let hides = |token: &&Token| token.directive && token.multi_line;
        let tokens = if self.tree.directives.is_some() { &self.tree.tokens[..] } else { &[] };
        tokens.iter().filter(hides).filter_map(|token| {
            let (start, end) = (token.start as usize, token.end as usize);
            let (first, last) = (self.lines.line_of(start) + 1, self.lines.line_of(end - 1));
            let is_said = |line: &usize| {
                let line = self.lines.start(*line);
                !self.text[line..end].lines().next().unwrap_or_default().trim().is_empty()
            };
            let mut lines = (first..=last).filter(|line| set.touches(*line..*line + 1));
            let from = lines.find(is_said)?;
            let to = lines.filter(is_said).last().unwrap_or(from);
            let from = self.lines.start(from);
            let rest = &self.text[self.lines.start(to)..end];
            let line = rest.lines().next().unwrap_or_default().trim_end();
            let blanks = self.text[from..].len() - self.text[from..].trim_start().len();
            let bytes = from + blanks..self.lines.start(to) + line.len();
            let message = "this branch cannot be read together with the others: it is not judged \
                           and stays as it is";
            Some(Remark { bytes, about: "hidden_branch", message: message.into() })
        })
    }

    /// The zero-based lines of a set that are longer than agreed and that no edit changes.
    pub fn long_lines(&self, set: &LineSet, edits: &[Edit]) -> Vec<usize> {
        let Some(max) = self.style.number(Setting::MaxLineLength, Key::Whole) else {
            return Vec::new()
        };
        let (max, tab) = (max as usize, self.style.tab_columns());
        let widest = if self.text.as_bytes().contains(&b'\t') { tab } else { 1 };
        let is_long = |line: &usize| {
            let end = match line + 1 < self.lines.count() {
                true => self.lines.start(line + 1),
                false => self.text.len(),
            };
            let range = self.lines.start(*line)..end;
            // No character is wider than a tab, and no other one is wider than a byte.
            let text = || self.text[range.clone()].trim_end_matches(['\r', '\n']);
            let fits = range.len() * widest <= max || measure::columns(text(), tab) <= max;
            if fits || !set.touches(*line..line + 1) {
                return false;
            }
            let next = edits.partition_point(|edit| edit.range.end < range.start);
            edits.get(next).is_none_or(|edit| edit.range.start >= range.end)
        };
        (0..self.lines.count()).filter(is_long).collect()
    }

    /// The widths of the lines that could be broken at some gap.
    pub fn breakable_widths(&self) -> Vec<usize> {
        let tab = self.style.tab_columns();
        let mut lines: Vec<usize> = Vec::new();
        for (index, gap) in self.plan.gaps.iter().enumerate().take(self.tree.tokens.len()) {
            if gap.want == plan::Want::Break && !self.tree.broken(index, self.text) {
                lines.push(self.lines.line_of(self.tree.tokens[index].start as usize));
            }
        }
        lines.dedup();
        let width = |line: usize| {
            let end = match line + 1 < self.lines.count() {
                true => self.lines.start(line + 1),
                false => self.text.len(),
            };
            let text = &self.text[self.lines.start(line)..end];
            measure::columns(text.trim_end_matches(['\r', '\n']), tab)
        };
        lines.into_iter().map(width).collect()
    }

    /// How many blocks begin or end on a line of their own.
    pub fn edges(&self) -> usize {
        let closes = |index: &usize| {
            self.plan.gaps[*index].want == plan::Want::Line && self.plan.closes(*index)
        };
        2 * (0..self.tree.tokens.len()).filter(closes).count()
    }

    /// The zero-based lines of each unit that these lines make live.
    pub fn live_lines(&self, set: &LineSet) -> Vec<Range<usize>> {
        let live = self.live(set);
        let units = self.units.all.iter().zip(&live.unit);
        let lines = units.filter(|(_, live)| **live);
        lines.map(|(unit, _)| unit.first_line as usize..unit.last_line as usize + 1).collect()
    }

    /// The tokens of every unit that does not stay as it stands whatever is in play.
    pub fn unit_tokens(&self) -> Vec<Range<usize>> {
        let free = self.units.all.iter().filter(|unit| !unit.fixed);
        free.map(|unit| unit.first as usize..unit.end as usize).collect()
    }

    /// Of each list and each row of alternatives, the zero-based lines between those that it begins
    /// and ends on that hold one element or more, and nothing of another one.
    pub fn element_lines(&self) -> Vec<Vec<usize>> {
        let tokens = &self.tree.tokens;
        let line_of = |token: usize| self.lines.line_of(tokens[token].start as usize);
        let mut begins: ByGroup<Vec<usize>> = self.plan.groups.all(Vec::new());
        for (index, gap) in self.plan.gaps.iter().enumerate().take(tokens.len()) {
            let is_row = gap.want == plan::Want::Break && self.tree.broken(index, self.text);
            if let Some(group) = gap.group
                && is_row
                && self.plan.groups[group].shape.has_units()
            {
                begins[group].push(index);
            }
        }
        let is_one_line = |row: &[usize]| {
            let inner = &tokens[row[0] + 1..row[1]];
            !tokens[row[0]].multi_line
                && inner.iter().all(|token| !token.broken && !token.multi_line)
        };
        let mut lines = Vec::new();
        for (group, rows) in self.plan.groups.iter().zip(begins.iter()) {
            let rows = rows.windows(2).filter(|row| is_one_line(row)).map(|row| line_of(row[0]));
            let ends = line_of(group.end as usize - 1);
            let own: Vec<usize> = rows.filter(|line| *line < ends).collect();
            if !own.is_empty() {
                lines.push(own);
            }
        }
        lines
    }

    /// How many units there are, and how many of them hold a construct that no rule knows.
    pub fn kept(&self) -> (usize, usize) {
        let mut kept: Vec<u32> =
            self.plan.kept.iter().map(|token| self.units.of_token[*token as usize]).collect();
        kept.sort_unstable();
        kept.dedup();
        (self.units.all.len(), kept.len())
    }

    /// The first token of each construct that no rule knows.
    pub fn kept_places(&self) -> impl Iterator<Item = usize> {
        self.plan.kept.iter().map(|token| self.tree.tokens[*token as usize].start as usize)
    }

    /// What decides the gaps of a zero-based line: each gap, and the settings. Gaps that are kept as they
    /// stand have none.
    pub fn decided(&self, line: usize) -> Vec<(Range<usize>, Setting)> {
        let range = self.lines.start(line)..match line + 1 < self.lines.count() {
            true => self.lines.start(line + 1),
            false => self.text.len() + 1,
        };
        let tokens = &self.tree.tokens;
        let from = tokens.partition_point(|token| (token.start as usize) < range.start);
        let mut decided = Vec::new();
        for (index, token) in tokens.iter().enumerate().skip(from) {
            let start = token.start as usize;
            if !range.contains(&start) {
                break;
            }
            let gap = &self.plan.gaps[index];
            let begins_line = index == 0 || self.tree.broken(index, self.text);
            let place = self.tree.gap(index, self.text.len());
            match gap.want {
                want if want.keeps() => {}
                _ if begins_line => {
                    let beside = [index.wrapping_sub(1), index + 1];
                    let beside = beside.iter().filter_map(|beside| self.plan.gaps.get(*beside));
                    let places = beside.map(|gap| gap.breaks).filter(|own| PLACES.contains(own));
                    let own = [Setting::IndentSize, Setting::WrapIndent, Setting::WrapAlign];
                    let all = own.into_iter().chain(places).chain([gap.breaks]);
                    decided.extend(all.map(|setting| (place.clone(), setting)));
                }
                _ => decided.push((place, gap.setting)),
            }
        }
        decided
    }

    /// The plan itself.
    pub fn plan(&self) -> &Plan {
        &self.plan
    }

    /// The lines of the text.
    pub fn lines(&self) -> &Lines {
        &self.lines
    }

    /// What is in play on these lines.
    fn live(&self, set: &LineSet) -> Live {
        let indentation = |unit: usize| self.indentation_at(self.units.all[unit].first as usize);
        let is_beside = |one: usize, other: usize| indentation(one) == indentation(other);
        Live::new(&self.plan, &self.units, set, self.tree.indented, &is_beside)
    }

    /// As [`Sheet::present_indentation`], in spaces alone where tabs stand for some of them.
    fn indentation_at(&self, token: usize) -> &'a str {
        self.mixing.read(self.present_indentation(token))
    }

    /// The indentation of the line on which a token stands: where that begins inside a token over several
    /// lines, or with a later line of a comment, of the one on which this begins.
    fn present_indentation(&self, token: usize) -> &'a str {
        let tokens = &self.tree.tokens;
        if tokens[token].broken {
            return self.tree.indentation(token, self.text);
        }
        let start = |token: usize| {
            self.lines.start(self.lines.line_of(tokens[token].start as usize))
        };
        // The one that a line begins with or in.
        let begins = |line: usize| {
            let next = tokens.partition_point(|own| (own.start as usize) < line);
            let goes_on = next > 0 && tokens[next - 1].end as usize > line;
            next - usize::from(goes_on)
        };
        let mut line = start(token);
        loop {
            let mut first = begins(line);
            while first < token && tokens[first].continues {
                first -= 1;
            }
            match start(first) {
                before if before < line => line = before,
                _ => break,
            }
        }
        let text = &self.text[line..];
        &text[..text.len() - text.trim_start_matches([' ', '\t']).len()]
    }

    /// Whether the text has a line break in a gap, or on the other side of the operator beside it.
    fn broken(&self, gap: usize) -> bool {
        self.tree.broken(gap, self.text) || self.plan.gaps[gap].chosen
    }

    fn present(&self, gap: usize) -> &'a str {
        &self.text[self.tree.gap(gap, self.text.len())]
    }
}
