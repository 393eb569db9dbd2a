use super::{LineEnd, Lines, common};
use imara_diff::{Algorithm, Diff, IndentHeuristic, IndentLevel, InternedInput, TokenSource};
use std::collections::HashMap;
use std::ops::Range;
use std::sync::OnceLock;

/// How wide a tab counts where a hunk could slide up or down and the indentation decides.
const TAB_FOR_COMPARING: u8 = 8;

/// The lines in play, and the seams between them.
///
/// A *seam* is a place between two lines where lines were added or taken away. Seam `n` lies before
/// line `n`. A hunk that only adds or only removes lines has a seam at both its ends; one that
/// replaces lines has none.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct LineSet {
    whole: bool,
    touched: Vec<Range<u32>>,
    seams: Vec<u32>,
    /// Ascending lines that are in play for their indentation alone.
    moved: Vec<u32>,
    base: Option<String>,
    /// Whether lines are gone that may have opened or closed a block.
    unwraps: bool,
    /// Whether every touched line stands in the place of one that opens and closes what it does.
    keeps_shape: bool,
    /// Ascending lines of the base that are gone.
    gone: Vec<Range<u32>>,
    /// How all lines of the base end, where all lines of the text end in the other way.
    turned_from: Option<LineEnd>,
    /// The ascending lines of the base, or else of the text, that go on with a token of several,
    /// once somebody asked for them.
    inside_tokens: OnceLock<Vec<Range<u32>>>,
}

impl LineSet {
    /// Every line.
    pub fn whole() -> LineSet {
        LineSet { whole: true, ..LineSet::default() }
    }

    /// These ranges of zero-based lines, in any order.
    pub fn of(ranges: impl IntoIterator<Item = Range<usize>>) -> LineSet {
        let mut touched: Vec<_> =
            ranges.into_iter().map(|range| range.start as u32..range.end as u32).collect();
        touched.sort_by_key(|range| range.start);
        // Whoever looks for a line goes by the order of the ranges' ends, too.
        touched.dedup_by(|next, last| {
            let overlaps = next.start <= last.end;
            if overlaps {
                last.end = last.end.max(next.end);
            }
            overlaps
        });
        LineSet { touched, ..LineSet::default() }
    }

    /// The lines of `text` that `base` does not have, by the histogram algorithm. A changed line
    /// end alone does not touch a line; a missing final line break does.
    ///
    /// ```
    /// use kanonix_core::text::LineSet;
    /// let set = LineSet::between("ebb\nflood\n", "ebb\nslack\nflood\n");
    /// assert!(set.touches(1..2) && !set.touches(0..1) && !set.touches(2..3));
    /// ```
    pub fn between(base: &str, text: &str) -> LineSet {
        let (from, to_base, to_text) = middle(base, text);
        let (input, diff) = compare(&base[from..to_base], &text[from..to_text]);
        let before = memchr::memchr_iter(b'\n', &text.as_bytes()[..from]).count() as u32;
        let mut set = LineSet {
            base: Some(base.to_string()),
            keeps_shape: true,
            turned_from: turned_from(base, text),
            ..LineSet::default()
        };
        for hunk in diff.hunks() {
            let after = before + hunk.after.start..before + hunk.after.end;
            if hunk.before.is_empty() || after.is_empty() {
                set.seams.push(after.start);
                if !after.is_empty() {
                    set.seams.push(after.end);
                }
            }
            let line_of = |line: u32| input.interner[input.before[line as usize]].0;
            set.unwraps |= hunk.before.clone().any(|line| may_bracket(line_of(line)));
            let new_of = |line: u32| input.interner[input.after[line as usize]].0;
            set.keeps_shape &= hunk.before.len() == hunk.after.len()
                && hunk.before.clone().zip(hunk.after.clone()).all(|(old, new)| {
                    shape(line_of(old)) == shape(new_of(new))
                });
            if !after.is_empty() {
                set.touched.push(after);
            }
            if !hunk.before.is_empty() {
                set.gone.push(before + hunk.before.start..before + hunk.before.end);
            }
        }
        set
    }

    /// This set, however its lines ended before.
    pub(super) fn with_any_line_ends(self) -> LineSet {
        LineSet { turned_from: None, ..self }
    }

    /// What two sets have in common; compared with what the first one was.
    pub(super) fn shared(self, other: LineSet) -> LineSet {
        let seams = self.seams.iter().copied();
        let seams = seams.filter(|seam| other.seams.binary_search(seam).is_ok()).collect();
        let touched = self.chosen(|line| other.touches(line..line + 1));
        let turned_from = self.turned_from.filter(|_| other.turned_from == self.turned_from);
        LineSet { touched, seams, keeps_shape: false, turned_from, ..self }
    }

    /// This set but for the lines that are marked.
    pub(super) fn without(self, marked: &[bool]) -> LineSet {
        let touched = self.chosen(|line| !marked.get(line).copied().unwrap_or(false));
        LineSet { touched, keeps_shape: false, ..self }
    }

    /// Which lines of the last step are those of `base`, unchanged in every step.
    pub(super) fn carried<'a>(base: &str, steps: impl Iterator<Item = &'a str>) -> Vec<bool> {
        let mut carried = vec![true; base.split_inclusive('\n').count()];
        let mut before = base;
        for text in steps {
            let set = LineSet::between(before, text);
            let mut lost = set.gone.iter().flat_map(|range| range.clone()).peekable();
            let kept = carried.iter().enumerate().filter(|(line, _)| {
                lost.next_if(|lost| *lost as usize == *line).is_none()
            });
            let mut kept = kept.map(|(_, carried)| *carried);
            let count = text.split_inclusive('\n').count();
            let lines = 0..count;
            let next = lines.map(|line| !set.touches(line..line + 1) && kept.next() == Some(true));
            carried = next.collect();
            before = text;
        }
        carried
    }

    /// The touched lines that are chosen, as ranges.
    fn chosen(&self, choose: impl Fn(usize) -> bool) -> Vec<Range<u32>> {
        let mut chosen: Vec<Range<u32>> = Vec::new();
        let lines = self.touched.iter().flat_map(|range| range.clone());
        for line in lines.filter(|line| choose(*line as usize)) {
            match chosen.last_mut() {
                Some(last) if last.end == line => last.end += 1,
                _ => chosen.push(line..line + 1),
            }
        }
        chosen
    }

    /// Whether lines are gone that may have opened or closed a block.
    pub fn unwraps(&self) -> bool {
        self.unwraps
    }

    /// Whether every touched line stands in the place of one that opens and closes what it does,
    /// so that none of the others can have moved.
    pub fn keeps_shape(&self) -> bool {
        self.keeps_shape
    }

    /// What the lines were compared with.
    pub fn base(&self) -> Option<&str> {
        self.base.as_deref()
    }

    /// The zero-based lines that both texts have, blanks before them aside: pairs of the base's
    /// and the text's, in the order of the text's. Hunks with nothing but brackets between them are
    /// looked at together, as a comparison may pair either of two brackets.
    pub fn alike_but_indented(base: &str, text: &str) -> Vec<(usize, usize)> {
        let (input, diff) = compare(base, text);
        let olds: Vec<&str> = base.split_inclusive('\n').collect();
        let news: Vec<&str> = text.split_inclusive('\n').collect();
        let mut pairs: Vec<(usize, usize)> = Vec::new();
        let (mut gone, mut come): (Vec<usize>, Vec<usize>) = (Vec::new(), Vec::new());
        let (mut old, mut new) = (0, 0);
        for hunk in diff.hunks() {
            let same = new..hunk.after.start as usize;
            if !news[same.clone()].iter().all(|line| may_bracket(line)) {
                pairs.extend(trimmed_pairs(&olds, &gone, &news, &come));
                gone.clear();
                come.clear();
            }
            pairs.extend((old..).zip(same));
            (old, new) = (hunk.before.end as usize, hunk.after.end as usize);
            gone.extend(hunk.before.start as usize..old);
            come.extend(hunk.after.start as usize..new);
        }
        pairs.extend(trimmed_pairs(&olds, &gone, &news, &come));
        pairs.extend((old..input.before.len()).zip(new..input.after.len()));
        pairs.sort_unstable_by_key(|(_, new)| *new);
        pairs
    }

    /// What the base has, by zero-based line of `text`, in the place of the lines that are others by now:
    /// where as many are gone as have come.
    pub fn replaced(&self, text: &str) -> HashMap<usize, &str> {
        let Some(base) = self.base() else { return HashMap::new() };
        let (from, to_base, to_text) = middle(base, text);
        let (_, diff) = compare(&base[from..to_base], &text[from..to_text]);
        let before = memchr::memchr_iter(b'\n', &text.as_bytes()[..from]).count();
        let olds: Vec<&str> = base[from..to_base].split_inclusive('\n').collect();
        let hunks = diff.hunks().filter(|hunk| hunk.before.len() == hunk.after.len());
        let pairs = hunks.flat_map(|hunk| hunk.before.zip(hunk.after));
        pairs.map(|(old, new)| (before + new as usize, olds[old as usize])).collect()
    }

    /// This set, with some ascending lines in play for their indentation alone.
    pub fn with_moved(&self, lines: Vec<usize>) -> LineSet {
        let touched = self.chosen(|line| lines.binary_search(&line).is_err());
        let moved = lines.iter().map(|line| *line as u32).collect();
        LineSet { touched, moved, ..self.clone() }
    }

    /// Whether a zero-based line is in play for its indentation alone.
    pub fn is_moved(&self, line: usize) -> bool {
        self.moved.binary_search(&(line as u32)).is_ok()
    }

    /// Whether any line is.
    pub fn has_moved(&self) -> bool {
        !self.moved.is_empty()
    }

    /// What is in play once lines have changed places: `was` says of each line which one it was, if
    /// it was one. Lines that have other neighbours than before have seams between them.
    pub fn carried_by(&self, was: &[Option<usize>]) -> LineSet {
        if self.whole {
            return self.clone();
        }
        let is_touched = |was: &Option<usize>| was.is_none_or(|was| self.touches(was..was + 1));
        let lines = was.iter().enumerate();
        let touched = lines.clone().filter(|(_, was)| is_touched(was));
        let moved = lines.filter(|(_, was)| was.is_some_and(|was| self.is_moved(was)));
        let seams = (0..=was.len()).filter(|line| {
            let above = line.checked_sub(1).and_then(|above| was[above]);
            let own = was.get(*line).copied().flatten();
            let follows = match (above, own) {
                (Some(above), Some(own)) => above + 1 == own,
                (Some(_), None) => *line == was.len(),
                (None, Some(own)) => own == 0,
                (None, None) => true,
            };
            !follows || own.is_some_and(|own| self.has_seam(own, own))
        });
        LineSet {
            seams: seams.map(|line| line as u32).collect(),
            moved: moved.map(|(line, _)| line as u32).collect(),
            keeps_shape: false,
            base: self.base.clone(),
            turned_from: self.turned_from,
            unwraps: self.unwraps,
            gone: self.gone.clone(),
            ..LineSet::of(touched.map(|(line, _)| line..line + 1))
        }
    }

    /// What is in play of these lines of the text, counted from the first of them; `base` is what
    /// they were compared with.
    pub fn part(&self, lines: Range<usize>, base: Option<&str>) -> LineSet {
        let (start, end) = (lines.start as u32, lines.end as u32);
        let within = |line: &u32| (start..end).contains(line);
        let touched = self.touched.iter().map(|range| {
            range.start.max(start) - start..range.end.min(end).max(start) - start
        });
        LineSet {
            touched: touched.filter(|range| !range.is_empty()).collect(),
            seams: self.seams.iter().filter(|seam| within(seam)).map(|seam| seam - start).collect(),
            moved: self.moved.iter().filter(|line| within(line)).map(|line| line - start).collect(),
            base: base.map(str::to_string),
            gone: Vec::new(),
            turned_from: None,
            inside_tokens: OnceLock::new(),
            ..self.clone()
        }
    }

    /// Finds out which lines of the base, or else of the text, go on with a token of several.
    pub fn look_inside(&self, text: &str, find: impl FnOnce(&str) -> Vec<Range<u32>>) {
        self.inside_tokens.get_or_init(|| find(self.base().unwrap_or(text)));
    }

    /// Whether a zero-based line of the base, or else of the text, is known to go on with a token of
    /// several.
    pub fn is_inside_token(&self, line: usize) -> bool {
        let ranges = self.inside_tokens.get().map_or(&[][..], Vec::as_slice);
        let next = ranges.partition_point(|range| range.end as usize <= line);
        ranges.get(next).is_some_and(|range| range.start as usize <= line)
    }

    /// This set without the touched lines of these ascending ranges, unless every line is in play.
    pub fn outside(&self, ranges: &[Range<usize>]) -> LineSet {
        let is_outside = |line: usize| {
            let next = ranges.partition_point(|range| range.end <= line);
            ranges.get(next).is_none_or(|range| line < range.start)
        };
        LineSet { touched: self.chosen(is_outside), ..self.clone() }
    }

    /// Whether every line is in play.
    pub fn is_whole(&self) -> bool {
        self.whole
    }

    /// How all lines of the base end, where all lines of the text end in the other way.
    pub fn turned_from(&self) -> Option<LineEnd> {
        self.turned_from
    }

    /// Whether nothing is in play.
    pub fn is_empty(&self) -> bool {
        !self.whole
            && self.touched.is_empty()
            && self.seams.is_empty()
            && self.moved.is_empty()
            && self.turned_from.is_none()
    }

    /// Whether one of these zero-based lines is touched.
    pub fn touches(&self, lines: Range<usize>) -> bool {
        if self.whole {
            return true;
        }
        let next = self.touched.partition_point(|range| range.end as usize <= lines.start);
        self.touched.get(next).is_some_and(|range| (range.start as usize) < lines.end)
    }

    /// Whether a seam lies at one of these places, the last one included.
    pub fn has_seam(&self, first: usize, last: usize) -> bool {
        if self.whole {
            return true;
        }
        let next = self.seams.partition_point(|seam| (*seam as usize) < first);
        self.seams.get(next).is_some_and(|seam| *seam as usize <= last)
    }

    /// The seams, ascending.
    pub fn seams(&self) -> impl Iterator<Item = usize> {
        self.seams.iter().map(|seam| *seam as usize)
    }

    /// The touched ranges of zero-based lines, ascending; none if [`LineSet::is_whole`].
    pub fn ranges(&self) -> impl Iterator<Item = Range<usize>> {
        self.touched.iter().map(|range| range.start as usize..range.end as usize)
    }
}

/// How all lines of one text end, where all lines of the other one end in the other way.
pub(super) fn turned_from(base: &str, text: &str) -> Option<LineEnd> {
    let ends_in_return =
        |text: &str| memchr::memchr(b'\n', text.as_bytes()).map(|at| text[..at].ends_with('\r'));
    // Most texts are known by their first lines.
    if ends_in_return(base)? == ends_in_return(text)? {
        return None;
    }
    let (base, text) = (Lines::new(base), Lines::new(text));
    (!base.is_mixed() && !text.is_mixed()).then_some(base.line_end())
}

/// The stretch in which two texts differ: where it begins in both, and where it ends in each. Lines
/// that are the same are left beside it for hunks to slide over.
fn middle(base: &str, text: &str) -> (usize, usize, usize) {
    let (olds, news) = (base.as_bytes(), text.as_bytes());
    let same = common::prefix(olds, news);
    let from = memchr::memrchr_iter(b'\n', &olds[..same]).nth(BESIDE).map_or(0, |at| at + 1);
    let same = common::suffix(&olds[from..], &news[from..]);
    let behind = olds.len() - same;
    let rest = memchr::memchr_iter(b'\n', &olds[behind..]).nth(BESIDE);
    let rest = rest.map_or(0, |at| same - at - 1);
    (from, olds.len() - rest, news.len() - rest)
}

/// So many lines are left on either side; a hunk slides over fewer.
const BESIDE: usize = 120;

/// Compares two texts line by line, with hunks slid to where a person expects them.
fn compare<'a>(base: &'a str, text: &'a str) -> (InternedInput<(&'a str, bool)>, Diff) {
    let input = InternedInput::new(LinesOf(base), LinesOf(text));
    let mut diff = Diff::compute(Algorithm::Histogram, &input);
    diff.postprocess_with_heuristic(
        &input,
        IndentHeuristic::new(|line| {
            IndentLevel::for_ascii_line(input.interner[line].0.bytes(), TAB_FOR_COMPARING)
        }),
    );
    (input, diff)
}

/// Which of some old lines and some new ones are the same, blanks around them aside.
fn trimmed_pairs(
    olds: &[&str],
    gone: &[usize],
    news: &[&str],
    come: &[usize],
) -> Vec<(usize, usize)> {
    let mut input: InternedInput<&str> = InternedInput::default();
    input.update_before(gone.iter().map(|line| olds[*line].trim()));
    input.update_after(come.iter().map(|line| news[*line].trim()));
    let diff = Diff::compute(Algorithm::Histogram, &input);
    let mut pairs = Vec::new();
    let (mut old, mut new) = (0, 0);
    for hunk in diff.hunks() {
        pairs.extend((old..hunk.before.start as usize).zip(new..hunk.after.start as usize));
        (old, new) = (hunk.before.end as usize, hunk.after.end as usize);
    }
    pairs.extend((old..gone.len()).zip(new..come.len()));
    pairs.into_iter().map(|(old, new)| (gone[old], come[new])).collect()
}

/// Whether a line may open or close a block in some language.
fn may_bracket(line: &str) -> bool {
    let line = line.trim();
    line.ends_with(['{', '(', '[', ':', '>', '}', ')', ']']) || line.starts_with(['}', ')', ']'])
}

/// What a line may open and close: its indentation, its first word, how it begins and ends, and
/// its brackets.
fn shape(line: &str) -> (&str, &str, Option<char>, String) {
    let solid = line.trim();
    let indentation = &line[..line.len() - line.trim_start().len()];
    let word_end = solid.find(|c: char| !c.is_alphanumeric() && c != '_').unwrap_or(solid.len());
    let is_bracket =
        |c: &char| matches!(c, '{' | '}' | '(' | ')' | '[' | ']' | '<' | '>' | '"' | '\'' | '`');
    let brackets = solid.chars().filter(is_bracket).collect();
    (indentation, &solid[..word_end], solid.chars().next_back(), brackets)
}

struct LinesOf<'a>(&'a str);

impl<'a> TokenSource for LinesOf<'a> {
    type Token = (&'a str, bool);
    type Tokenizer = Box<dyn Iterator<Item = (&'a str, bool)> + 'a>;

    fn tokenize(&self) -> Self::Tokenizer {
        Box::new(self.0.split_inclusive('\n').map(|line| match line.strip_suffix('\n') {
            Some(bare) => (bare.strip_suffix('\r').unwrap_or(bare), true),
            None => (line, false),
        }))
    }

    fn estimate_tokens(&self) -> u32 {
        (self.0.len() / 32) as u32
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn named_lines_may_overlap() {
        let set = LineSet::of([13..14, 13..16, 20..22, 21..21]);
        let touched: Vec<usize> = (0..30).filter(|line| set.touches(*line..*line + 1)).collect();
        assert_eq!(touched, [13, 14, 15, 20, 21]);
    }

    #[test]
    fn a_replaced_line_has_no_seam() {
        let set = LineSet::between("a\nb\nc\n", "a\nB\nc\n");
        assert!(set.touches(1..2) && !set.has_seam(0, 9));
    }

    #[test]
    fn a_removed_line_leaves_one_seam() {
        let set = LineSet::between("a\nb\nc\n", "a\nc\n");
        assert!(!set.touches(0..9) && set.has_seam(1, 1) && !set.has_seam(2, 9));
    }

    #[test]
    fn lines_are_alike_whatever_stands_before_them() {
        let (base, text) = ("a\n}\nb\nc\n", "a\n} else {\n  b\n  c\n}\n");
        let alike = LineSet::alike_but_indented(base, text);
        assert!(alike.contains(&(2, 2)) && alike.contains(&(3, 3)), "{alike:?}");
        let moved = LineSet::between(base, text).with_moved(vec![2, 3]);
        assert!(!moved.touches(2..4) && moved.is_moved(2) && moved.is_moved(3));
    }

    #[test]
    fn lines_that_may_open_a_block_are_missed() {
        assert!(LineSet::between("if a:\n    b\n", "    b\n").unwraps());
        assert!(!LineSet::between("a\nb\n", "b\n").unwraps());
    }

    #[test]
    fn a_line_in_the_place_of_its_like_moves_no_other() {
        let keeps = |old, new| LineSet::between(old, new).keeps_shape();
        assert!(keeps("if (a) {\n  b\n}\n", "if (a && b) {\n  b\n}\n"));
        assert!(!keeps("if (a)\n  b()\n", "f(a)\n  b()\n"));
        assert!(!keeps("if a:\n    if b:\n        c\n", "if a:\n    c\n"));
        assert!(!keeps("a(b)\n", "a(b\n)\n"));
    }

    #[test]
    fn what_came_through_every_step_is_carried() {
        let steps = ["a\nx\nb\nc\n", "x\nb\nC\n", "x\nb\nC\nc\n"];
        assert_eq!(LineSet::carried("a\nb\nc\n", steps.into_iter()), [false, true, false, false]);
        assert_eq!(LineSet::carried("a\n", ["a"].into_iter()), [false]);
    }

    #[test]
    fn what_is_far_from_a_change_makes_no_difference() {
        let far: String = (0..500).map(|n| format!("level {n}\n")).collect();
        let set = LineSet::between(&format!("{far}a\nb\n{far}"), &format!("{far}a\nB\n\nb\n{far}"));
        assert_eq!(set.ranges().collect::<Vec<_>>(), [501..503]);
        assert!(set.has_seam(501, 501) && set.has_seam(503, 503) && !set.has_seam(504, 1100));
        let shorter = LineSet::between(&format!("{far}{far}"), &far);
        assert!(shorter.ranges().next().is_none() && shorter.has_seam(500, 500));
    }

    #[test]
    fn line_ends_alone_touch_nothing() {
        assert!(LineSet::between("a\nb\n", "a\r\nb\n").is_empty());
        let turned = LineSet::between("a\nb\n", "a\r\nb\r\n");
        assert!(!turned.touches(0..9) && turned.turned_from() == Some(LineEnd::Lf));
        assert!(LineSet::between("a\nb\n", "a\nb").touches(1..2));
    }
}
