//! Lists: bracketed ones, and what is declared together.

use crate::layout::plan::{
    Align,
    Around,
    Close,
    Column,
    Gap,
    GroupId,
    Opens,
    Rows,
    Shape,
    Slight,
    TreeEdit,
    When,
};
use crate::layout::planner::Planner;
use crate::style::{Key, Setting, Value};
use crate::syntax::{NodeId, Role, TokenId};

/// How a bracketed list is laid out.
#[derive(Clone, Copy, Debug, Default)]
pub struct List {
    tight: bool,
    collection: bool,
    last_comma: bool,
    closed: bool,
    stand_in: Option<TokenId>,
    rows: Option<Rows>,
    by_hand: bool,
    reluctant: bool,
    declaration: bool,
    members: bool,
    with: Option<GroupId>,
    own_line: bool,
    alone: bool,
    /// Whether it holds keys and values.
    pairs: bool,
    words: bool,
    names: bool,
    stays_open: bool,
    read_along: bool,
}

impl List {
    /// A list that may stay flat around something of several lines inside it.
    pub fn new() -> List {
        List::default()
    }

    /// A collection, which `list_wrap = "one_each"` always opens.
    pub fn collection(self) -> List {
        List { collection: true, ..self }
    }

    /// The parameters of a function.
    pub fn declaration(self) -> List {
        List { declaration: true, ..self }
    }

    /// What a type is made of, member by member: where it is open, each has its line, a step
    /// further in, and so has the closing bracket.
    pub fn members(self) -> List {
        List { members: true, ..self.collection() }
    }

    /// Whether each of its elements has a name of its own.
    fn is_of_names(&self) -> bool {
        self.declaration || self.names || self.pairs
    }

    /// How `wrap_align` and `close_bracket` know it.
    fn key(&self) -> Key {
        match self {
            List { declaration: true, .. } => Key::Declaration,
            List { collection: true, .. } => Key::Collection,
            _ => Key::Call,
        }
    }

    /// A comma may be added behind its last element, and taken away.
    pub fn last_comma(self) -> List {
        self.last_comma_if(true)
    }

    /// The same where something is so.
    pub fn last_comma_if(self, last_comma: bool) -> List {
        List { last_comma, ..self }
    }

    /// It opens where something inside it takes several lines.
    pub fn opens_around_lines(self) -> List {
        self.opens_around_lines_if(true)
    }

    /// The same where something is so.
    pub fn opens_around_lines_if(self, closed: bool) -> List {
        List { closed, ..self }
    }

    /// Keys and their values: where there are several, it opens where one of them takes several lines.
    pub fn of_pairs(self) -> List {
        self.of_pairs_if(true)
    }

    /// The same where something is so.
    pub fn of_pairs_if(self, pairs: bool) -> List {
        List { pairs, ..self }
    }

    /// Nothing stands inside its brackets beside the first and the last element.
    pub fn tight(self) -> List {
        List { tight: true, ..self }
    }

    /// Its last element is broken at this gap in its place.
    pub fn stand_in(self, gap: Option<TokenId>) -> List {
        List { stand_in: gap, ..self }
    }

    /// Several elements may share a line, however few they are.
    pub fn shared_rows(self) -> List {
        List { rows: Some(Rows::Shared), ..self }
    }

    /// It opens by hand alone.
    pub fn by_hand(self) -> List {
        self.by_hand_if(true)
    }

    /// The same where something is so.
    pub fn by_hand_if(self, by_hand: bool) -> List {
        List { by_hand, ..self }
    }

    /// Where its last element fits on a line of its own, it has that, whatever may stand in.
    pub fn own_line_if(self, own_line: bool) -> List {
        List { own_line, ..self }
    }

    /// A last function's block stays with its call, unless it follows another function: it has a line of its
    /// own then, where it fits there.
    pub fn last_function(
        self,
        elements: &[NodeId],
        is_function: impl Fn(&NodeId) -> bool,
    ) -> List {
        match elements.split_last() {
            Some((last, before)) if is_function(last) => match before.iter().any(is_function) {
                true => List { own_line: true, ..self },
                false => List { by_hand: true, ..self },
            },
            _ => self,
        }
    }

    /// One element does not stand on a line of its own because somebody put it there.
    pub fn closes_around_one(self) -> List {
        self.closes_around_one_if(true)
    }

    /// The same where something is so.
    pub fn closes_around_one_if(self, alone: bool) -> List {
        List { alone, ..self }
    }

    /// What it holds gets its names here: a lone one does not stand on a line of its own.
    pub fn names(self) -> List {
        List { names: true, ..self }
    }

    /// Its elements are read along their lines, however many each of these has.
    pub fn read_along(self) -> List {
        List { read_along: true, ..self }
    }

    /// It stays open around one short element, too, where somebody opened it.
    pub fn stays_open(self) -> List {
        List { stays_open: true, ..self }
    }

    /// Words with nothing but blanks between them: they are read along their lines.
    pub fn words(self) -> List {
        List { words: true, rows: Some(Rows::Any), ..self.collection() }
    }

    /// It opens where the group does that its opening brace is in.
    pub fn with(self, around: Option<GroupId>) -> List {
        List { with: around, ..self }
    }

    /// What stands before it on its line is broken rather than it.
    pub fn reluctant(self) -> List {
        self.reluctant_if(true)
    }

    /// The same where something is so.
    pub fn reluctant_if(self, reluctant: bool) -> List {
        List { reluctant, ..self }
    }
}

/// So many tokens are a short name.
const LONGEST_NAME: TokenId = 5;

/// So many plain numbers, or short texts, are a row.
const FEWEST_VALUES: usize = 4;

/// So many bytes are a short text, its quotes included.
const LONGEST_TEXT: usize = 12;

/// Where there are so many texts, longer ones are short, too.
const MANY_TEXTS: usize = 16;

/// So many bytes are a short text among many.
const LONGEST_OF_MANY: usize = 20;

impl Planner<'_> {
    /// A bracketed list: `parts` begins with the opening bracket, ends with the closing one, and
    /// has the elements and separators between them. Returns its group, unless a bracket is
    /// missing.
    pub fn list(&mut self, parts: &[NodeId], list: List) -> Option<GroupId> {
        let (&opener, &closer) = match (parts.first(), parts.last()) {
            (Some(first), Some(last)) if parts.len() > 1 => (first, last),
            _ => return None,
        };
        let group = self.group(Shape::List, self.first(opener), self.end(closer));
        let inner = &parts[1..parts.len() - 1];
        let elements = inner.iter().filter(|part| !self.is_separator(**part)).count();
        let inside = match list {
            List { tight: true, .. } => Some(0),
            List { words: true, .. } => self.choices.brackets_gap,
            _ => self.inside_both(
                self.first(opener) + 1,
                self.first(closer),
                self.inner_gap(self.first(opener)),
            ),
        };
        let align = match list.members {
            true => Align::Step,
            // What gives way to others stands under nothing.
            false if list.reluctant => Align::Step,
            false => self.choices.aligns.of(list.key()),
        };
        let level = match (list.members, list.key()) {
            (false, Key::Call | Key::Declaration) => self.choices.list_steps,
            _ => 1,
        };
        let fills = list.words
            || list.collection
                && !list.members
                && !self.choices.one_each
                && self.are_short_values(inner);
        let is_one = !inner.iter().any(|part| self.is_separator(*part));
        let with_last = self.choices.closes.of(list.key()) == Close::WithLast;
        let closes = (list.reluctant && !self.broken_before(self.first(closer)))
            || (list.alone && is_one)
            || ((list.names || !list.collection)
                && !list.stays_open
                && elements == 1
                && is_one
                && (with_last || self.is_short(inner[0], list.declaration)));
        let drops_comma =
            list.last_comma && (self.choices.add_last_comma || self.choices.drop_last_comma);
        let asks_for_lines =
            inner.last().is_some_and(|last| self.is_separator(*last)) && !drops_comma;
        let is_beside = inner.first().is_some_and(|first| !self.broken_before(self.first(*first)));
        let may_be_slight = !list.collection || list.names || (is_beside && !list.members);
        let own = self.group_mut(group);
        own.slight = match (list.stays_open || asks_for_lines, may_be_slight) {
            (true, _) => Slight::Never,
            (false, true) => Slight::Half,
            (false, false) if list.members || list.pairs || list.closed => Slight::Never,
            (false, false) => Slight::Row,
        };
        own.fills = fills;
        own.inner = level;
        own.around = if list.closed || (list.pairs && elements > 1) {
            Around::OneLine
        } else {
            Around::Lists
        };
        own.stand_in = list.stand_in;
        own.own_line = list.own_line;
        own.closes = closes;
        own.rows = match list.rows {
            Some(rows) => rows,
            // Values one after another may belong together, and names and pairs stand for themselves.
            None if align.asks_the_text() && !list.is_of_names() => Rows::Shared,
            None if list.members => Rows::Never,
            // Pairs that share a line, and names with what stands for them, may do so by chance.
            None if list.closed && !list.read_along && !align.asks_the_text() => Rows::Even,
            None => Rows::Bracketed,
        };
        own.reluctant = list.reluctant;
        own.with = list.with;
        own.align = align;
        own.bracketed = true;
        own.one_each = list.members;
        own.opens = if list.by_hand { Opens::ByHand } else { Opens::TooWide };
        if elements == 0 && inner.is_empty() {
            let (first, last) = (self.first(opener), self.first(closer));
            if last == first + 1 {
                match list.tight {
                    true => self.flat(last, 0, Setting::InnerGap),
                    false => self.inside_nothing(first, last),
                }
            } else {
                self.may_break(last, group, 0, 0, Setting::InnerGap);
                self.at_most(last, self.choices.edge_blank);
            }
            return Some(group);
        }
        let mut after_separator = true;
        for (index, part) in inner.iter().enumerate() {
            let token = self.first(*part);
            if self.is_separator(*part) {
                self.word(token, 0);
                after_separator = true;
            } else if after_separator {
                let (blanks, setting) = match index {
                    0 => (self.chosen(token, inside), Setting::InnerGap),
                    _ => (1, Setting::WordGap),
                };
                self.may_break(token, group, level, blanks, setting);
                self.column(token, Column::Table);
                after_separator = list.words;
            }
        }
        let first = self.first(inner[0]);
        self.at_most(first, self.choices.edge_blank);
        let last = self.first(closer);
        let key = Some(list.key()).filter(|_| !list.members);
        self.close(last, group, inside, key);
        // No column is worth a blank that the canon has not.
        let is_free = self.choices.parens_gap.is_none();
        if key == Some(Key::Collection) || (key == Some(Key::Call) && is_free) {
            self.column(last, Column::Table);
        }
        if self.choices.one_each && list.collection && !list.words && elements > 1 {
            self.force(group);
        }
        let of = self.parent(opener);
        let last_element = inner.iter().rev().find(|part| !self.is_separator(**part));
        let may_follow = |element: &NodeId| self.tree.may_be_followed(of, *element);
        if list.last_comma && last_element.is_some_and(may_follow) {
            self.last_comma(inner, group);
        }
        Some(group)
    }

    /// Whether an element is one word, or a few that are one name: `level`, `this.level`; where it is
    /// declared, with its type.
    fn is_short(&self, element: NodeId, declared: bool) -> bool {
        let (first, end) = (self.first(element), self.end(element));
        let is_plain = |token: TokenId| {
            let token = &self.tree.tokens[token as usize];
            token.role != Role::Comment && !token.multi_line
        };
        let joins = |token: TokenId| match self.token_text(token) {
            "." | "::" | "?." | "&" => true,
            ":" => declared,
            _ => false,
        };
        end - first <= LONGEST_NAME
            && (first..end).all(is_plain)
            && (end == first + 1 || (first + 1..end).step_by(2).all(joins) || joins(first))
    }

    /// Whether a single token is all that a list holds.
    pub fn is_one_token(&self, elements: &[NodeId]) -> bool {
        matches!(elements, [only] if self.end(*only) == self.first(*only) + 1)
    }

    /// Whether there is one element, of one short token: nobody opens brackets around that.
    pub fn is_one_short_value(&self, elements: &[NodeId]) -> bool {
        let is_short = |only: &NodeId| self.token_text(self.first(*only)).len() <= LONGEST_TEXT;
        self.is_one_token(elements) && elements.iter().all(is_short)
    }

    /// Whether elements are plain numbers, or short texts, and several: they are read along their lines.
    fn are_short_values(&self, inner: &[NodeId]) -> bool {
        let is_number = |token: TokenId| {
            self.token_text(token).starts_with(|first: char| first.is_ascii_digit())
        };
        let elements = || inner.iter().filter(|part| !self.is_separator(**part));
        let is_plain = |part: &NodeId| {
            let (first, end) = (self.first(*part), self.end(*part));
            let is_signed = end == first + 2 && matches!(self.token_text(first), "-" | "+");
            (end == first + 1 || is_signed) && is_number(end - 1)
        };
        let longest = match elements().count() {
            MANY_TEXTS.. => LONGEST_OF_MANY,
            _ => LONGEST_TEXT,
        };
        let is_text = |part: &NodeId| {
            let text = self.token_text(self.first(*part));
            self.end(*part) == self.first(*part) + 1
                && text.len() <= longest
                && self.is_string(*part)
        };
        elements().count() >= FEWEST_VALUES
            && (elements().all(is_plain) || elements().all(is_text))
    }

    /// `int level = 2, ebb`: what a declaration declares together, behind its word or its type. The first
    /// one stands below that where somebody put it there.
    pub fn declared_together(&mut self, declaration: NodeId, declared: &[NodeId]) {
        let [first, later @ .., last] = declared else {
            return declared.iter().for_each(|only| self.named(declaration, self.first(*only)));
        };
        let group = self.group(Shape::List, self.first(declaration), self.end(*last));
        let first = self.first(*first);
        let is_below = self.choices.remembers && self.broken_before(first);
        let own = self.group_mut(group);
        (own.rows, own.opening) = (Rows::Loose, is_below.then_some(first));
        self.stands_anywhere(group, Key::Declaration);
        let later = later.iter().chain([last]).map(|declared| self.first(*declared));
        let begins: Vec<TokenId> = is_below.then_some(first).into_iter().chain(later).collect();
        for token in begins {
            self.may_break(token, group, self.choices.declaration_steps, 1, Setting::WordGap);
        }
    }

    /// The name of a function stands below its type, or behind it. Where it stays as it is, or has to
    /// be below, it begins a line as the header does.
    pub fn typed(&mut self, function: NodeId, name: TokenId, has_body: bool) {
        let is_below = match self.style.get(Setting::ReturnTypeLine, Key::Whole) {
            Value::Word("own_line") => has_body,
            Value::Word("keep") => self.broken_before(name),
            _ => false,
        };
        if is_below {
            let group = self.group(Shape::Block, self.first(function), name);
            self.line_beside(name, group, Setting::ReturnTypeLine);
            self.at_most(name, 0);
        } else {
            self.named(function, name);
        }
    }

    /// The name of what is declared goes below its type rather than that a line ends in what this is made of.
    fn named(&mut self, declaration: NodeId, name: TokenId) {
        let is_below = self.choices.remembers && self.broken_before(name);
        if is_below || self.token_text(name - 1) != ">" || self.after_comment(name) {
            return self.named_below(name);
        }
        let given = self.parts(declaration).into_iter().find(|part| self.end(*part) == name);
        let Some(given) = given.map(|given| self.first(given)) else { return };
        // Where a function is for types of its own, a line may end behind those.
        if given.checked_sub(1).is_none_or(|before| self.token_text(before) != ">") {
            let group = self.group(Shape::LastResort, given, name + 1);
            self.group_mut(group).opens = Opens::Halves;
            self.may_break(name, group, self.choices.chain_steps, 1, Setting::WordGap);
        }
    }

    /// A name stays below its type, where somebody put it there as a line has no room for both.
    pub fn named_below(&mut self, name: TokenId) {
        if self.choices.remembers && self.broken_before(name) && !self.after_comment(name) {
            let group = self.group(Shape::LastResort, name - 1, name + 1);
            self.may_break(name, group, self.choices.chain_steps, 1, Setting::WordGap);
        }
    }

    /// A bracketed list in which no line may end.
    pub fn flat_list(&mut self, parts: &[NodeId]) {
        let [opener, inner @ .., closer] = parts else { return };
        if inner.is_empty() {
            return self.inside_nothing(self.first(*opener), self.first(*closer));
        }
        let gap = self.inner_gap(self.first(*opener));
        self.commas(inner);
        for edge in inner.first().into_iter().chain([closer]) {
            self.inside_bracket(self.first(*edge), gap);
        }
    }

    /// The gap before the closing bracket of a list that `close_bracket` knows by a key, if it
    /// does. A comment on a line before it keeps that.
    pub(super) fn close(
        &mut self,
        closer: TokenId,
        group: GroupId,
        gap: Option<u8>,
        key: Option<Key>,
    ) {
        let gap = self.chosen(closer, gap);
        let close = key.map_or(Close::OwnLine, |key| self.choices.closes.of(key));
        if close == Close::WithLast && !self.below_comment(closer) {
            let breaks = Setting::CloseBracket;
            *self.gap(closer) = Gap { breaks, ..Gap::flat(gap, Setting::InnerGap) };
            return;
        }
        self.group_mut(group).close = close;
        self.may_break(closer, group, 0, gap, Setting::InnerGap);
        self.gap(closer).breaks = Setting::CloseBracket;
        self.at_most(closer, self.choices.edge_blank);
    }

    fn last_comma(&mut self, inner: &[NodeId], group: GroupId) {
        let Some(&last) = inner.last() else { return };
        let is_comma = self.is_separator(last);
        let (add, drop) = (self.choices.add_last_comma, self.choices.drop_last_comma);
        if is_comma && inner.len() > 1 {
            let comma = self.first(last);
            let when = if drop { When::Always } else { When::Flat(group) };
            // A list that was flat has it by choice.
            let was_open = || self.broken_between(self.first(inner[0]) - 1, comma + 1);
            if !self.choices.keeps_flat_comma || was_open() {
                self.rewrite(comma, TreeEdit::Remove(when), Setting::LastComma);
            }
        } else if !is_comma && add {
            let Some(token) = self.tree.last_solid(last) else { return };
            // The mark that the list has between its elements.
            let between = inner.iter().rev().find(|part| self.is_separator(**part));
            let entry = between.and_then(|mark| {
                self.tree.kinds.entries.get(self.kind(*mark) as usize)
            });
            let mark = entry.and_then(|entry| entry.name).unwrap_or(",");
            self.rewrite(token, TreeEdit::Insert(mark, When::Open(group)), Setting::LastComma);
        }
    }
}
