//! Statements and blocks, in the grammar's order.

use super::declarations::{is_access_word, sort};
use super::expressions::values;
use super::kinds::Kind;
use crate::layout::plan::{Column, GroupId, Shape, When};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Handed, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for a statement; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::Program => program(p, parts),
        // What holds them plans them.
        Kind::BodyStatement | Kind::BlockBody | Kind::Then | Kind::Do => {}
        Kind::BeginBlock | Kind::EndBlock => {
            if let [_, opener, .., closer] = parts {
                p.word(p.first(*opener), 1);
                braced(p, p.first(node), &parts[1..], &parts[2..parts.len() - 1], *closer);
            }
        }
        Kind::IfModifier
        | Kind::UnlessModifier
        | Kind::WhileModifier
        | Kind::UntilModifier
        | Kind::RescueModifier => {
            p.words(parts);
            if let [_, word, _] = parts {
                p.column(p.first(*word), Column::Value);
            }
        }
        Kind::Begin => begin(p, node, parts),
        Kind::If | Kind::Unless => if_statement(p, node, parts),
        Kind::Elsif => elsif(p, node, parts),
        Kind::Else | Kind::Ensure => clause(p, node, p.first(node), &parts[1..]),
        Kind::Rescue => rescue(p, node, parts),
        Kind::While | Kind::Until | Kind::For => loop_statement(p, node, parts),
        Kind::Case | Kind::CaseMatch => case(p, node, parts),
        Kind::When | Kind::InClause => when(p, node, parts),
        Kind::Exceptions => values(p, parts),
        Kind::DoBlock => do_block(p, node, parts),
        Kind::Block => block(p, node, parts),
        Kind::BlockParameters => block_parameters(p, parts),
        _ => return false,
    }
    true
}

/// Statements, and behind `__END__` what is none of them.
fn program(p: &mut Planner, parts: &[NodeId]) {
    listed(p, parts, GroupId::ROOT, 0);
    if parts.last().is_some_and(|last| p.is(*last, Kind::Uninterpreted)) {
        p.keep_end();
    }
}

/// Statements on lines of their own; what follows a `;` on its line stays there.
fn listed(p: &mut Planner, parts: &[NodeId], group: GroupId, level: u8) {
    let lines = p.lines_of(parts, false, is_end);
    p.statements(&lines, group, level, sort);
}

/// Whether a part is a mark or a word between statements.
fn is_end(p: &Planner, part: NodeId) -> bool {
    matches!(
        Kind::at(p, part),
        Kind::Semicolon | Kind::EmptyStatement | Kind::ThenWord | Kind::DoWord
    )
}

/// The marks and words at the end of a header, and what comes behind them. Gives the header's last token.
fn behind_header<'n>(
    p: &mut Planner,
    opener: TokenId,
    parts: &'n [NodeId],
) -> (TokenId, &'n [NodeId]) {
    let count = parts.iter().take_while(|part| is_end(p, **part)).count();
    let mut opener = opener;
    for part in &parts[..count] {
        opener = p.first(*part);
        let is_word = matches!(Kind::at(p, *part), Kind::ThenWord | Kind::DoWord);
        p.word(opener, u8::from(is_word));
        if is_word {
            p.column(opener, Column::Value);
        }
    }
    (opener, &parts[count..])
}

/// What stands between a header, whose first token is `header` and whose last one `opener`, and the word
/// that ends it. What goes on with it (`rescue`) stands where the header does.
pub(super) fn body(
    p: &mut Planner,
    (header, opener): (TokenId, TokenId),
    own: &[NodeId],
    end: NodeId,
    key: Key,
) {
    let word = p.first(end);
    let (opener, own) = behind_header(p, opener, own);
    let goes_on = own.iter().position(|part| goes_on(p, *part)).unwrap_or(own.len());
    let (own, clauses) = own.split_at(goes_on);
    if let Some(group) = p.flat_words(header, opener, word, key) {
        p.flat_lines(opener, own, group, is_end);
        for clause in clauses {
            flat_clause(p, *clause, group);
        }
        p.line_ends_before(word, When::Open(group));
        return p.flat_end(word, group);
    }
    if own.is_empty() && clauses.is_empty() && !p.broken_before(word) {
        return p.word(word, 1);
    }
    let is_flat = !p.broken_between(opener, word);
    let clause = clauses.first().copied().filter(|clause| {
        matches!(Kind::at(p, *clause), Kind::Elsif | Kind::Else) && key == Key::Control
    });
    let stays = clause.is_some_and(|clause| are_arms_flat(p, clause))
        && p.stays_flat(header, opener, own, key, is_end);
    let own = if stays { Vec::new() } else { p.lines_of(own, is_flat, is_end) };
    p.line_ends_before(word, When::Always);
    let group = p.word_block(header, &own, end, sort);
    p.stands_under(group, header, word);
    if own.is_empty() && !stays {
        p.empty_block(header, opener);
    }
    beside_clauses(p, (&own, clauses), word, group);
    if matches!(key, Key::Type | Key::Lambda) {
        let end = clauses.first().map_or(word, |clause| p.first(*clause));
        p.access_words(&own, end, is_access_word);
    }
}

/// The words that go on with a construct behind its first block, each on a line of its own.
fn beside_clauses(
    p: &mut Planner,
    (own, clauses): (&[NodeId], &[NodeId]),
    word: TokenId,
    group: GroupId,
) {
    if let Some(first) = own.first() {
        let (first, end) = (p.first(*first), clauses.first().map_or(word, |next| p.first(*next)));
        p.bare_block(first, end, group);
    }
    for clause in clauses {
        let token = p.first(*clause);
        p.line(token, group, 0, Setting::FlatBlock);
        p.at_most(token, p.choices.edge_blank.max(1));
        p.line_ends_before(token, When::Always);
    }
}

fn goes_on(p: &Planner, part: NodeId) -> bool {
    matches!(Kind::at(p, part), Kind::Rescue | Kind::Else | Kind::Elsif | Kind::Ensure)
}

fn flat_clause(p: &mut Planner, clause: NodeId, group: GroupId) {
    let token = p.first(clause);
    p.line_ends_before(token, When::Open(group));
    p.may_break(token, group, 0, 1, Setting::FlatBlock);
    p.gap(token).inside = true;
    p.hand(clause, Handed::Block(group));
}

/// `begin … rescue … end`
fn begin(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    if let [word, own @ .., end] = parts {
        body(p, (p.first(node), p.first(*word)), own, *end, Key::Control);
    }
}

/// The statements of a part that holds some (`then`), among others.
pub(super) fn inside(p: &Planner, parts: &[NodeId]) -> Vec<NodeId> {
    let mut own = Vec::new();
    for part in parts {
        match Kind::at(p, *part) {
            Kind::Then | Kind::BodyStatement | Kind::BlockBody => own.extend(p.parts(*part)),
            _ => own.push(*part),
        }
    }
    own
}

/// `if ebb … elsif flood … else … end`
fn if_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, condition, own @ .., end] = parts else { return };
    p.word(p.first(*condition), 1);
    p.asks(*condition);
    let own = inside(p, own);
    body(p, (p.first(node), p.end(*condition) - 1), &own, *end, Key::Control);
}

/// `elsif flood …`, with what goes on behind it.
fn elsif(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, condition, own @ ..] = parts else { return };
    p.word(p.first(*condition), 1);
    p.asks(*condition);
    clause(p, node, p.end(*condition) - 1, own);
}

/// Whether several arms of the `if` that goes on with this one stand on the lines of their headers; any
/// other construct's stand by themselves.
fn are_arms_flat(p: &Planner, node: NodeId) -> bool {
    let mut first = p.parent(node);
    while p.is(first, Kind::Elsif) {
        first = p.parent(first);
    }
    if !matches!(Kind::at(p, first), Kind::If | Kind::Unless) {
        return true;
    }
    let mut next = Some(first);
    p.are_arms_flat(std::iter::from_fn(|| {
        let arm = next?;
        let parts = p.parts(arm);
        let header = if p.is(arm, Kind::Else) { parts[0] } else { *parts.get(1)? };
        let own = inside(p, &parts);
        let (header, is_it) = (p.end(header), |part: &&NodeId| goes_on(p, **part));
        next = own.iter().find(is_it).copied();
        let is_own = |part: &&NodeId| p.first(**part) >= header && !is_end(p, **part);
        let last = own.iter().take_while(|part| !is_it(part)).filter(is_own).last().copied();
        let last = last.filter(|last| !p.is(*last, Kind::End));
        Some((arm, header - 1, last))
    }))
}

/// `rescue Storm, Fog => e`
fn rescue(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let is_header =
        |part: &NodeId| matches!(Kind::at(p, *part), Kind::Exceptions | Kind::ExceptionVariable);
    let header = 1 + parts.iter().skip(1).take_while(|part| is_header(part)).count();
    p.words(&parts[..header]);
    clause(p, node, p.end(parts[header - 1]) - 1, &parts[header..]);
}

/// What stands behind a word that goes on with a construct; `opener` is the last token of its header.
fn clause(p: &mut Planner, node: NodeId, opener: TokenId, own: &[NodeId]) {
    let own = inside(p, own);
    let (opener, own) = behind_header(p, opener, &own);
    let goes_on = own.iter().position(|part| goes_on(p, *part)).unwrap_or(own.len());
    let (own, clauses) = own.split_at(goes_on);
    if let Some(group) = p.handed_block(node) {
        p.flat_lines(opener, own, group, is_end);
        clauses.iter().for_each(|clause| flat_clause(p, *clause, group));
        return;
    }
    let (start, end) = (p.first(node), p.end(node));
    if own.is_empty() {
        p.empty_block(start, opener);
        if clauses.is_empty() {
            return;
        }
    }
    let is_flat = !p.broken_between(opener, end - 1);
    if are_arms_flat(p, node) && p.stays_flat(start, opener, own, Key::Control, is_end) {
        if !clauses.is_empty() {
            let group = p.group(Shape::Block, start, end);
            beside_clauses(p, (&[], clauses), end, group);
        }
        return;
    }
    let group = p.group(Shape::Block, start, end);
    let own = p.lines_of(own, is_flat, is_end);
    p.statements(&own, group, 1, sort);
    if let Some(first) = own.first() {
        p.at_most(p.first(*first), p.choices.edge_blank);
    }
    beside_clauses(p, (&own, clauses), end, group);
}

/// `while ebb … end`, `for gauge in gauges … end`
fn loop_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [header @ .., inner] = parts else { return };
    p.words(header);
    if let [_, condition] = header {
        p.asks(*condition);
    }
    let (Some(last), own) = (header.last(), p.parts(*inner)) else { return };
    if let [own @ .., end] = &own[..] {
        body(p, (p.first(node), p.end(*last) - 1), own, *end, Key::Control);
    }
}

/// `case level when … else … end`
fn case(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let is_case =
        |part: &NodeId| matches!(Kind::at(p, *part), Kind::When | Kind::InClause | Kind::Else);
    let Some(first) = parts.iter().position(is_case) else { return p.words(parts) };
    let (header @ [_, rest @ ..], [cases @ .., end]) = parts.split_at(first) else { return };
    for part in rest {
        p.word(p.first(*part), u8::from(!is_end(p, *part)));
    }
    let (start, word) = (p.first(node), p.first(*end));
    let opener = p.end(header[header.len() - 1]) - 1;
    if let Some(group) = p.flat_words(start, opener, word, Key::Control) {
        for case in cases {
            flat_clause(p, *case, group);
        }
        p.line_ends_before(word, When::Open(group));
        return p.flat_end(word, group);
    }
    for case in cases {
        p.line_ends_before(p.first(*case), When::Always);
    }
    p.line_ends_before(word, When::Always);
    let group = p.word_block(start, cases, *end, |_, _| Sort::Other);
    p.stands_under(group, start, word);
    p.indent_cases(cases, start);
}

/// `when 1, 2 then …`, `in { level: } if ebb …`
fn when(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let is_body = |part: &NodeId| is_end(p, *part) || p.is(*part, Kind::Then);
    let header = parts.iter().position(is_body).unwrap_or(parts.len());
    let (header, own) = parts.split_at(header);
    let [_, first, ..] = header else { return };
    values(p, &header[1..]);
    p.word(p.first(*first), 1);
    let opener = p.end(header[header.len() - 1]) - 1;
    let own = inside(p, own);
    if p.handed_block(node).is_some() {
        return clause(p, node, opener, &own);
    }
    let (opener, own) = behind_header(p, opener, &own);
    let (start, end) = (p.first(node), p.end(node));
    let Some(first) = own.first().map(|first| p.first(*first)) else {
        return p.empty_block(start, opener);
    };
    let is_flat = !p.broken_between(opener, end - 1);
    if p.stays_flat(start, opener, own, Key::Case, is_end) {
        return;
    }
    let group = p.group(Shape::Block, start, end);
    let lines = p.lines_of(own, is_flat, is_end);
    p.statements(&lines, group, 1, sort);
    p.at_most(first, p.choices.edge_blank);
    p.bare_block(first, end, group);
}

/// The token whose line the lines of a block count from, that goes with a call: the name of what is called.
fn caller(p: &Planner, node: NodeId) -> TokenId {
    let call = p.parent(node);
    let name = |part: &&NodeId| {
        !matches!(Kind::at(p, **part), Kind::ArgumentList | Kind::Block | Kind::DoBlock)
    };
    match Kind::at(p, call) {
        Kind::Call => p.parts(call).iter().rev().find(name).map_or(p.first(node), |name| {
            p.end(*name) - 1
        }),
        Kind::Lambda => p.first(call),
        _ => p.first(node),
    }
}

/// `do |gauge| … end`
fn do_block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [word, own @ .., end] = parts else { return };
    let mut opener = p.first(*word);
    let mut own = own;
    while let [first, rest @ ..] = own
        && (is_end(p, *first) || p.is(*first, Kind::BlockParameters))
    {
        p.word(p.first(*first), u8::from(!is_end(p, *first)));
        (opener, own) = (p.end(*first) - 1, rest);
    }
    let (stem, own) = (caller(p, node), inside(p, own));
    let whole = p.first(p.parent(node));
    let word = p.first(*end);
    body(p, (stem, opener), &own, *end, Key::Lambda);
    if let Some(group) = p.gap(word).group {
        p.stands_under(group, whole, word);
    }
}

/// `{ |gauge| … }`
fn block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, own @ .., closer] = parts else { return };
    let own = own.to_vec();
    let inner = inside(p, &own);
    if !inner.is_empty() && inner.iter().all(|part| is_end(p, *part)) {
        // `{ ; }` holds statements, although it has none.
        return inner.iter().chain([closer]).for_each(|part| p.keep_gap(p.first(*part)));
    }
    braced(p, caller(p, node), parts, &own, *closer);
}

/// What stands between two braces, behind parameters; `parts` are all of it.
fn braced(
    p: &mut Planner,
    header: TokenId,
    parts: &[NodeId],
    own: &[NodeId],
    closer: NodeId,
) {
    let brace = p.first(parts[0]);
    let (end, gap) = (p.first(closer), p.choices.block_gap);
    let mut opener = brace;
    let own = match own {
        [first, rest @ ..] if p.is(*first, Kind::BlockParameters) => {
            p.inside_bracket(p.first(*first), gap);
            opener = p.end(*first) - 1;
            rest
        }
        own => own,
    };
    let own = inside(p, own);
    if end == brace + 1 && !p.broken_before(end) {
        // `{}` and `{ }`: people write either.
        return p.keep_gap(end);
    }
    if own.is_empty() && !p.holds_lines(opener, end) {
        return p.inside_bracket(end, gap);
    }
    if let Some(group) = p.flat_words(header, opener, end, Key::Lambda) {
        p.flat_lines(opener, &own, group, is_end);
        let first = own.first().map(|first| p.first(*first)).filter(|_| opener == brace);
        for (token, level) in first.map(|first| (first, 1)).into_iter().chain([(end, 0)]) {
            let blanks = p.chosen(token, gap);
            p.may_break(token, group, level, blanks, Setting::InnerGap);
            p.gap(token).breaks = Setting::FlatBlock;
        }
        p.column(end, Column::Value);
        return p.line_ends_before(end, When::Open(group));
    }
    let is_flat = !p.broken_between(opener, end);
    let own = p.lines_of(&own, is_flat, is_end);
    p.line_ends_before(end, When::Always);
    let group = p.word_block(header, &own, closer, sort);
    p.stands_under(group, header, end);
    if let Some(first) = own.first() {
        p.bare_block(p.first(*first), end, group);
    }
}

/// `|gauge, (low, high); total|`
fn block_parameters(p: &mut Planner, parts: &[NodeId]) {
    let [_, own @ .., closer] = parts else { return };
    p.commas(own);
    if let Some(first) = own.first() {
        p.word(p.first(*first), 0);
    }
    p.word(p.first(*closer), 0);
}
