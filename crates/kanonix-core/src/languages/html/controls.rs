//! Control words of templates that stand on lines of their own, and what is between them.

use super::habits::{is_further, most_are_further};
use super::layout::{Kind, Place, begins_line};
use super::templates::{self, Control};
use crate::layout::plan::{Shape, TokenRanges};
use crate::layout::planner::Planner;
use crate::style::Key;
use crate::syntax::{NodeId, Role, TokenId};

/// How many steps further in each place is for the control words that it stands between: where both
/// ends of each stand on lines of their own here. `None` where one ends or goes on that began
/// elsewhere: tags that only balance across its branches.
pub(super) fn levels(p: &mut Planner, node: NodeId, places: &[Place]) -> Option<Vec<u8>> {
    let mut steps = vec![0; places.len() + 1];
    for Controls { words, lines } in all(p, places)? {
        let all = is_held_further(p, node, places, words[0], &lines, None);
        for pair in words.windows(2) {
            let [word, next] = [pair[0], pair[1]];
            let place = |at: usize| lines.partition_point(|line| *line < at);
            let own = &lines[place(word)..place(next)];
            if is_held_further(p, node, places, words[0], own, Some(all)) {
                steps[word + 1] += 1;
                steps[comments_beside(p, places, word, next)] -= 1;
                holds(p, places, word, next);
            }
        }
    }
    Some(running(&steps).map(|level| u8::try_from(level).unwrap_or(u8::MAX)).collect())
}

/// The sums of some numbers up to each of them but the last.
fn running(steps: &[i32]) -> impl Iterator<Item = i32> + '_ {
    let sums = steps.iter().scan(0, |sum, step| {
        *sum += step;
        Some(*sum)
    });
    sums.take(steps.len() - 1)
}

/// Where the comments begin that somebody put beside a control word right behind them: they speak of what
/// it begins.
fn comments_beside(p: &Planner, places: &[Place], word: usize, next: usize) -> usize {
    let column = p.line_columns(places[next].token);
    let is_beside = |at: &usize| {
        let token = places[*at].token;
        templates::is_comment(p.token_text(token)) && p.line_columns(token) == column
    };
    let own = (word + 1..next).rev().take_while(is_beside).last();
    own.filter(|_| p.choices.remembers).unwrap_or(next)
}

/// What stands between two control words is a block of the first one's.
fn holds(p: &mut Planner, places: &[Place], word: usize, next: usize) {
    let first = places[word + 1..next].iter().find(|place| !place.goes_on);
    let first = first.map(|place| place.token);
    let [word, end] = [word, next].map(|at| places[at].token);
    // Comments are part of what stands around them, and below all of it they would go with what follows.
    match first {
        Some(first) => {
            let group = p.group(Shape::Block, word, end);
            p.block_below(word, first, end, group);
        }
        None => p.empty_block(word, word),
    }
}

/// The control word that a text begins with, which may take several lines.
pub(super) fn control_at<'t>(p: &Planner<'t>, token: TokenId) -> Option<Control<'t>> {
    let text = p.token_text(token);
    if templates::action(text).is_some() {
        return templates::control(text);
    }
    let rest = &p.text[p.tree.tokens[token as usize].start as usize..];
    let length = templates::action(rest)?;
    let line = rest[length..].find('\n').map_or(rest.len(), |end| length + end);
    templates::control(rest[..line].trim_end())
}

/// Control words that begin, go on with and end one thing.
struct Controls {
    words: Vec<usize>,
    /// What stands between them, and between no others inside; those are among it.
    lines: Vec<usize>,
}

/// What control words have begun among some places and not ended yet.
struct Open<'t> {
    name: &'t str,
    has_end: bool,
    /// The one that began it, and those that go on with it.
    words: Vec<usize>,
    lines: Vec<usize>,
}

/// The control words among some places, inner ones first. `None` where one has no end among them, or no
/// beginning.
fn all(p: &Planner, places: &[Place]) -> Option<Vec<Controls>> {
    let starts = |place: &Place| place.token == 0 || begins_line(p, place);
    let alone = |index: usize| {
        starts(&places[index])
            && places[index + 1..].iter().find(|place| !place.goes_on).is_none_or(starts)
            && p.tree.tokens[places[index].token as usize].role == Role::Text
    };
    let is_torn = |index: usize| p.is_fixed(places[index].token);
    let control = |index: usize| {
        control_at(p, places[index].token).filter(|_| alone(index) && !is_torn(index))
    };
    let mut all: Vec<Controls> = Vec::new();
    let mut open: Vec<Open> = Vec::new();
    for index in 0..places.len() {
        match control(index) {
            Some(control @ (Control::Opens(name) | Control::MayOpen(name))) => {
                let has_end = matches!(control, Control::Opens(_));
                open.push(Open { name, has_end, words: vec![index], lines: Vec::new() });
            }
            Some(Control::GoesOn) => open.last_mut()?.words.push(index),
            Some(Control::Closes(name)) => {
                let last = open.iter().rposition(|open| open.name == name)?;
                let mut inner = open.drain(last..);
                let Open { mut words, mut lines, .. } = inner.next()?;
                // What has no end here is a word like any other: what goes on does so with this one.
                for other in inner {
                    if other.has_end {
                        return None;
                    }
                    lines.push(other.words[0]);
                    lines.extend(other.lines);
                    words.extend_from_slice(&other.words[1..]);
                }
                words.push(index);
                if let Some(around) = open.last_mut() {
                    around.lines.extend_from_slice(&words);
                }
                all.push(Controls { words, lines });
            }
            // The later lines of a control word are part of that.
            None if places[index].goes_on => {}
            None => {
                if let Some(around) = open.last_mut() {
                    around.lines.push(index);
                }
            }
        }
    }
    all.iter_mut().for_each(|controls| controls.lines.sort_unstable());
    (!open.iter().any(|open| open.has_end)).then_some(all)
}

/// Whether what stands between two control words is further in than they are: as agreed, or else where
/// most of its lines are; as in `all` of the branches where that is not clear.
fn is_held_further(
    p: &Planner,
    node: NodeId,
    places: &[Place],
    word: usize,
    held: &[usize],
    all: Option<bool>,
) -> bool {
    let lines = held.iter()
        .flat_map(|at| [Some(places[*at].token), places[*at].end_line])
        .flatten();
    let word = places[word].token;
    let keep = || match all {
        Some(all) => most_are_further(p, word, lines.clone()).unwrap_or(all),
        None => is_further(p, node, Key::Control, word, lines.clone()),
    };
    p.choices.page_indents.of(Key::Control).unwrap_or_else(keep)
}

/// Whether each place stands between control words.
pub(super) fn are_held(p: &Planner, places: &[Place]) -> Vec<bool> {
    let mut steps = vec![0; places.len() + 1];
    for pair in all(p, places).iter().flatten().flat_map(|controls| controls.words.windows(2)) {
        steps[pair[0] + 1] += 1;
        steps[pair[1]] -= 1;
    }
    running(&steps).map(|around| around > 0).collect()
}

/// What stands between control words that are torn apart stays as it stands, with each element that only
/// begins or ends there.
pub(super) fn fix_torn(p: &mut Planner) {
    let torn = torn(p);
    if torn.iter().next().is_none() {
        return;
    }
    let elements = (0..p.tree.nodes.len() as NodeId).filter(|node| p.is(*node, Kind::Element));
    let straddles = |node: &NodeId| {
        torn.around(p.first(*node)) != torn.around(p.end(*node).saturating_sub(1))
    };
    let own: Vec<NodeId> = elements.filter(straddles).collect();
    own.into_iter().for_each(|node| p.fix(node));
    torn.iter().for_each(|torn| p.fix_tokens(torn));
}

/// What a control word has begun that has an end, in one element or another.
struct Begun<'t> {
    name: &'t str,
    token: TokenId,
    /// What holds it.
    home: NodeId,
    /// Whether something else holds a control word that goes on with it.
    is_torn: bool,
}

/// So many inside one another are looked through for what ends; nobody writes more.
const DEEPEST: usize = 64;

/// The tokens from a control word to the one that ends what it begins, where they or one between them stand
/// in different elements: tags that only balance across its branches.
fn torn(p: &Planner) -> TokenRanges {
    let mut torn = TokenRanges::default();
    if !templates::may_hold(p.text) {
        return torn;
    }
    let mut open: Vec<Begun> = Vec::new();
    let texts = (0..p.tree.nodes.len() as NodeId).filter(|node| p.is(*node, Kind::Text));
    let tokens = texts.flat_map(|text| (p.first(text)..p.end(text)).map(move |at| (text, at)));
    for (text, token) in tokens {
        let home = p.parent(text);
        match control_at(p, token).filter(|_| is_alone(p, token)) {
            Some(Control::Opens(name)) => open.push(Begun { name, token, home, is_torn: false }),
            Some(Control::GoesOn) => {
                if let Some(begun) = open.last_mut() {
                    begun.is_torn |= begun.home != home;
                }
            }
            Some(Control::Closes(name)) => {
                let last = open.iter().rev().take(DEEPEST).position(|begun| begun.name == name);
                let Some(at) = last.map(|last| open.len() - 1 - last) else { continue };
                if open[at].is_torn || open[at].home != home {
                    torn.add(open[at].token..token + 1);
                }
                open.truncate(at);
            }
            Some(Control::MayOpen(_)) | None => {}
        }
    }
    torn
}

/// Whether a text that begins with a control word has the lines to itself.
fn is_alone(p: &Planner, token: TokenId) -> bool {
    let takes_lines = templates::action(p.token_text(token)).is_none();
    let is_apart = |token: TokenId| token == 0 || p.broken_before(token);
    is_apart(token)
        && (takes_lines || token as usize + 1 == p.tree.tokens.len() || is_apart(token + 1))
}
