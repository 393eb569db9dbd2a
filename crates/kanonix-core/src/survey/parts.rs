//! Which parts of a tree are written otherwise than the rest of it: a vendored folder, old tests, a
//! file by somebody else.

use super::{Answer, Survey};
use crate::style::{Key, Setting, Style};
use std::cmp::Reverse;
use std::collections::{BTreeMap, BTreeSet, VecDeque};

/// A part has at least so many lines that would change.
const FEWEST_LINES: usize = 40;

/// Of a part's lines at least this share would change.
const UNLIKE: f64 = 0.1;

/// At least so many times as many as in the rest of the tree, line for line.
const TIMES: f64 = 3.0;

/// Of a folder's files at least this share is like that.
const MOST_FILES: f64 = 0.7;

/// An agreement of a part's own spares at least this share of those lines.
const HELPED: f64 = 0.3;

/// A setting of a part is worth its line in the canon if it spares this share of the part's lines.
const WORTH: f64 = 0.01;

/// Of a part's lines at most this share changes under an agreement of its own, unless nobody else
/// has a claim to it.
const ENOUGH: f64 = 0.2;

/// Files may be parts where at least this share of all lines is in files as the whole is agreed to be;
/// where less is, each folder goes its own way, and only folders are looked at.
const LIKE: f64 = 0.25;

/// So many parts are proposed; a tree with more of them has other worries.
const MOST_PARTS: usize = 8;

/// A file as the proposal for the whole tree leaves it.
#[derive(Clone, Debug)]
pub struct Left<'t> {
    /// Its path from the root, with slashes.
    pub path: &'t str,
    /// How many lines it has.
    pub lines: usize,
    /// How many of them are neither blank nor a comment's: a file may be mostly its notice.
    pub code: usize,
    /// How many of them would change.
    pub changed: usize,
}

impl Left<'_> {
    /// Whether it is as the whole tree is agreed to be.
    fn is_like(&self) -> bool {
        (self.changed as f64) < self.code as f64 * UNLIKE
    }
}

/// A folder or a file that is written otherwise.
#[derive(Clone, Debug, PartialEq)]
pub struct Unlike {
    /// Its path from the root, with slashes.
    pub path: String,
    /// Whether it is a folder.
    pub is_folder: bool,
    /// Its files, by their places among those that were asked about.
    pub files: Vec<usize>,
    /// How many lines they have.
    pub lines: usize,
    /// How many of them would change under the proposal for the whole tree.
    pub changed: usize,
}

/// What is proposed for such a part.
#[derive(Clone, Debug)]
pub struct Part {
    /// Where it is.
    pub unlike: Unlike,
    /// How many lines would change under an agreement of its own.
    pub changed: usize,
    /// What it has of its own, with what speaks for it.
    pub answers: Vec<Answer>,
    /// All that is agreed for it.
    pub style: Style,
}

/// The parts of a tree, or of a folder of it, in which clearly more lines would change than elsewhere:
/// folders, or files where a folder has others, the worst first.
fn unlike(files: &[Left], within: Option<&Unlike>) -> Vec<Unlike> {
    let all: Vec<usize> = (0..files.len()).collect();
    let (some, depth) = within.map_or((&all, 0), |folder| (&folder.files, folder.path.len()));
    let mut folders: BTreeMap<&str, Vec<usize>> = BTreeMap::new();
    for index in some {
        let path = files[*index].path;
        for (slash, _) in path.match_indices('/').filter(|(slash, _)| *slash > depth) {
            folders.entry(&path[..slash]).or_default().push(*index);
        }
    }
    let rest = Sum::of_the_rest(files);
    let is_unlike = |part: Sum| rest.unwrap_or_default().is_unlike(part);
    let mut found: Vec<Unlike> = Vec::new();
    let mut taken: BTreeSet<usize> = BTreeSet::new();
    // A folder comes before what is in it.
    for (folder, inside) in folders {
        let most = inside.len() as f64 * MOST_FILES;
        let differs = |file: &&usize| !files[**file].is_like();
        if inside.len() > 1
            && inside.len() < files.len()
            && !taken.contains(&inside[0])
            && inside.iter().filter(differs).count() as f64 >= most
            && is_unlike(Sum::of(files, inside.iter().copied()))
        {
            taken.extend(&inside);
            found.push(Unlike::new(folder, true, inside, files));
        }
    }
    for index in some.iter().filter(|_| rest.is_some()) {
        if !taken.contains(index) && is_unlike(Sum::of(files, [*index])) {
            found.push(Unlike::new(files[*index].path, false, vec![*index], files));
        }
    }
    found.sort_by_key(|part| Reverse(part.changed));
    found.truncate(MOST_PARTS);
    found
}

/// How the parts of a tree that are unlike the rest are settled.
pub trait Parts {
    /// Texts of a part to be surveyed.
    fn texts(&self, part: &Unlike) -> Vec<String>;
    /// What a survey finds in texts from a style.
    fn read(&self, texts: &[&str], base: Style) -> Survey;
    /// How many lines of a part's files would change under a style.
    fn changed(&self, part: &Unlike, style: &Style) -> usize;
    /// Whose each file of the tree is by its copyright notice.
    fn notices(&self) -> Vec<Option<String>>;
}

/// An agreement of its own for each part of a tree that the style of the whole disturbs more than
/// the rest, and that one would help; and those that none helps enough and somebody else wrote, by
/// what their notices say. A folder that none helps may hold folders and files that one does.
pub fn settle_parts(files: &[Left], whole: &Style, by: &impl Parts) -> (Vec<Part>, Vec<Unlike>) {
    let found = unlike(files, None);
    if found.is_empty() {
        return (Vec::new(), Vec::new());
    }
    let notices = by.notices();
    let rest = Sum::of_the_rest(files).unwrap_or_default();
    let is_unlike = |file: &usize| rest.is_unlike(Sum::of(files, [*file]));
    let ours: BTreeSet<&String> = (0..files.len())
        .filter(|file| !is_unlike(file) && found.iter().all(|part| part.files != [*file]))
        .filter_map(|file| notices[file].as_ref())
        .collect();
    let is_foreign = |part: &Unlike| {
        let whose = |file: &usize| notices[*file].as_ref();
        part.files.iter().all(|file| whose(file).is_some_and(|whose| !ours.contains(whose)))
    };
    let (mut parts, mut foreign) = (Vec::new(), Vec::new());
    let mut open = VecDeque::from(found);
    while let Some(part) = open.pop_front() {
        let texts = by.texts(&part);
        let texts: Vec<&str> = texts.iter().map(String::as_str).collect();
        let changed = |style: &Style| by.changed(&part, style);
        let settled = part.clone().settle(
            &texts,
            whole,
            |texts, base| by.read(texts, base),
            changed,
        );
        match settled {
            Some(settled) if settled.is_enough() || !is_foreign(&part) => parts.push(settled),
            _ if is_foreign(&part) => foreign.push(part),
            None if part.is_folder => open.extend(unlike(files, Some(&part))),
            _ => {}
        }
    }
    parts.sort_by_key(|part| Reverse(part.unlike.changed - part.changed));
    parts.truncate(MOST_PARTS);
    (parts, foreign)
}

/// Lines of some files, blank ones and comments aside.
#[derive(Clone, Copy, Default)]
struct Sum {
    lines: usize,
    changed: usize,
}

impl Sum {
    fn of(files: &[Left], some: impl IntoIterator<Item = usize>) -> Sum {
        some.into_iter().fold(Sum::default(), |sum, file| Sum {
            lines: sum.lines + files[file].code,
            changed: sum.changed + files[file].changed,
        })
    }

    fn share(self) -> f64 {
        self.changed as f64 / self.lines.max(1) as f64
    }

    /// Those of the files that are as the whole is agreed to be; none, if they are too few.
    fn of_the_rest(files: &[Left]) -> Option<Sum> {
        let is_like = |file: &usize| files[*file].is_like();
        let all = Sum::of(files, 0..files.len());
        let rest = Sum::of(files, (0..files.len()).filter(is_like));
        (rest.lines as f64 >= all.lines as f64 * LIKE).then_some(rest)
    }

    /// Whether a part is clearly unlike these.
    fn is_unlike(self, part: Sum) -> bool {
        part.changed >= FEWEST_LINES
            && part.share() >= UNLIKE
            && part.share() >= self.share() * TIMES
    }
}

impl Part {
    /// Whether an agreement of its own leaves little to be changed.
    fn is_enough(&self) -> bool {
        self.changed as f64 <= self.unlike.lines as f64 * ENOUGH
    }
}

impl Unlike {
    fn new(path: &str, is_folder: bool, inside: Vec<usize>, files: &[Left]) -> Unlike {
        let sum = Sum::of(files, inside.iter().copied());
        let lines = inside.iter().map(|file| files[*file].lines).sum();
        Unlike {
            path: path.to_string(),
            is_folder,
            files: inside,
            lines,
            changed: sum.changed,
        }
    }

    /// An agreement of the part's own, beside `whole` for the rest of the tree, if that helps.
    /// `read` surveys texts from a style, and `changed` counts the lines that would change in all
    /// of the part's files.
    fn settle(
        self,
        texts: &[&str],
        whole: &Style,
        read: impl Fn(&[&str], Style) -> Survey,
        changed: impl Fn(&Style) -> usize,
    ) -> Option<Part> {
        let survey = Survey::settle_beside(texts, whole.clone(), read);
        let least = (survey.lines as f64 * WORTH).max(1.0);
        let spares = |answer: &Answer| {
            let cost = |value: &str| {
                answer.costs.iter().find(|cost| cost.value == value).map_or(0, |cost| cost.lines)
            };
            let expected = answer.expected.as_ref().filter(|_| !answer.usual);
            expected.map_or(0, |value| cost(value).saturating_sub(cost(&answer.proposed))) as f64
        };
        let mut answers = survey.answers();
        let has_step = |own: &Answer| own.name == "indent_size" && spares(own) >= least;
        let is_stepped = answers.iter().any(has_step);
        // So many steps are another place where a step is another one.
        let counts = |own: &Answer| own.values.iter().all(|(name, ..)| *name == "wrap_indent");
        answers.retain(|own| spares(own) >= if is_stepped && counts(own) { 1.0 } else { least });
        let has_tabs = !whole.is(Setting::IndentStyle, Key::Whole, "space");
        for answer in answers.iter_mut().filter(|answer| answer.name == "indent_size") {
            if has_tabs && answer.values.iter().all(|(name, ..)| *name == "indent_size") {
                answer.values.push(("indent_style", "", "space".to_string()));
            }
        }
        let mut style = whole.clone();
        for (name, key, value) in answers.iter().flat_map(|answer| &answer.values) {
            style.set(name, key, value).ok()?;
        }
        let changed = changed(&style);
        let spared = self.changed.saturating_sub(changed);
        let helps = spared >= FEWEST_LINES && spared as f64 >= self.changed as f64 * HELPED;
        helps.then_some(Part { unlike: self, changed, answers, style })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn found(files: &[(&'static str, usize, usize)]) -> Vec<String> {
        let left: Vec<Left> = files
            .iter()
            .map(|(path, code, changed)| {
                Left { path, lines: *code * 2, code: *code, changed: *changed }
            })
            .collect();
        unlike(&left, None).into_iter().map(|part| part.path).collect()
    }

    #[test]
    fn a_folder_is_unlike_where_most_of_its_files_are() {
        let rest = [("src/a.js", 900, 9), ("src/b.js", 800, 4)];
        let old = [("old/a.js", 200, 150), ("old/deep/b.js", 100, 90), ("old/deep/c.js", 90, 80)];
        assert_eq!(found(&[&rest[..], &old[..]].concat()), ["old"]);
        // One file of many is named by itself.
        let mixed = [("old/a.js", 200, 150), ("old/b.js", 100, 1), ("old/c.js", 90, 0)];
        assert_eq!(found(&[&rest[..], &mixed[..]].concat()), ["old/a.js"]);
    }

    #[test]
    fn lines_of_code_are_neither_blank_nor_comments() {
        let count = |name, text: &str| {
            let language = crate::languages::by_name(name).expect("a language");
            crate::Document::new(text, language).code_lines()
        };
        assert_eq!(
            count("css", "/* tides\n * of the mole\n */\na {\n  top: 0; /* ebb */\n\n}\n"),
            3
        );
        assert_eq!(count("python", "# tides\nlow = \"\"\"\nebb\n\n\"\"\"; high = 2\n"), 4);
        assert_eq!(count("css", "/* tides */\n"), 0);
    }

    #[test]
    fn a_folder_that_nothing_helps_may_hold_one_that_something_does() {
        let of = |path, changed| Left { path, lines: 200, code: 100, changed };
        let files = [
            of("src/a.css", 1),
            of("src/b.css", 2),
            of("old/a.css", 60),
            of("old/b.css", 50),
            of("old/deep/a.css", 40),
            of("old/deep/b.css", 70),
        ];
        let outer = unlike(&files, None);
        assert_eq!((outer.len(), outer[0].path.as_str(), outer[0].lines), (1, "old", 800));
        let inner = unlike(&files, Some(&outer[0])).into_iter().map(|part| part.path);
        assert_eq!(inner.collect::<Vec<_>>(), ["old/deep", "old/a.css", "old/b.css"]);
    }

    #[test]
    fn what_is_like_may_be_a_third_of_it_all() {
        let rest = [("src/a.js", 500, 9)];
        let old = [("old/a.js", 500, 350), ("old/b.js", 500, 390)];
        assert_eq!(found(&[&rest[..], &old[..]].concat()), ["old"]);
    }

    #[test]
    fn a_little_is_nothing_and_neither_is_what_is_everywhere() {
        assert!(found(&[("src/a.js", 900, 9), ("old/b.js", 50, 30)]).is_empty());
        assert!(found(&[("src/a.js", 900, 400), ("src/b.js", 500, 400)]).is_empty());
    }

    #[test]
    fn where_nothing_is_alike_each_folder_is_asked_for() {
        let (maps, tools) = (["maps/a.lua", "maps/b.lua"], ["tools/a.lua", "tools/b.lua"]);
        let of = |path| (path, 100, 60);
        let mixed = [of(maps[0]), of(maps[1]), of(tools[0]), of(tools[1]), of("start.lua")];
        assert_eq!(found(&mixed), ["maps", "tools"]);
    }
}
