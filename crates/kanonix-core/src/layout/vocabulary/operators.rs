//! Operators and the signs between two parts, with the blanks that `operator_gap` and `pair_gap`
//! want around each kind of them.

use crate::layout::plan::{Column, GroupId, Rows, Slight, Want};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::Handed;
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};
use std::iter;

/// So many operations around one, and in it, are asked where their lines end.
const MOST_AROUND: usize = 16;

/// A language's operators, weak ones first: those of one row bind alike and are broken together.
/// Each row has the key by which `operator_gap` knows them.
pub type Operators = &'static [(Key, &'static [&'static str])];

/// An operator with two operands.
#[derive(Clone, Copy, Debug)]
pub struct Binary {
    /// The node of the operation.
    pub node: NodeId,
    /// Its left operand.
    pub left: NodeId,
    /// First token of the operator.
    pub operator: TokenId,
    /// Its right operand.
    pub right: NodeId,
    /// The language's operators.
    pub operators: Operators,
    /// Whether the line may be broken here at all.
    pub breakable: bool,
    /// Whether an operator may begin a line.
    pub may_lead: bool,
    /// The first gap that may be broken inside the right operand in the chain's place.
    pub stand_in: Option<TokenId>,
}

impl Binary {
    /// An operation by its three parts: a line may be broken on either side of the operator, and nothing
    /// opens in its place.
    pub fn of(p: &Planner, node: NodeId, parts: [NodeId; 3], operators: Operators) -> Binary {
        let [left, operator, right] = parts;
        Binary {
            node,
            left,
            operator: p.first(operator),
            right,
            operators,
            breakable: true,
            may_lead: true,
            stand_in: None,
        }
    }
}

/// The row of an operator.
fn row(operators: Operators, text: &str) -> Option<usize> {
    operators.iter().position(|(_, texts)| texts.contains(&text))
}

impl Planner<'_> {
    /// So many blanks beside an operator, as `operator_gap` has them for its kind. What is kept has
    /// as many as there are.
    pub fn beside(&self, token: TokenId, key: Key) -> u8 {
        match self.choices.operator_gaps.of(key) {
            Some(blanks) => self.unfused(token, blanks),
            None => self.present_blanks(token).unwrap_or(1),
        }
    }

    /// So many blanks on both sides of an operator, as `operator_gap` has them for its kind. Where
    /// there are some on one side only, nobody meant that: there are as many as beside the ones that it goes
    /// on with. Where a line ends on one side, there are as many as on the other.
    fn around(&self, binary: Binary, key: Key) -> (u8, u8) {
        let Binary { node, operator, operators, .. } = binary;
        let right = self.first(binary.right);
        let (before, after) = (self.beside(operator, key), self.beside(right, key));
        let is_kept = self.choices.operator_gaps.of(key).is_none();
        match (is_kept, self.present_blanks(operator), self.present_blanks(right)) {
            (true, Some(_), None) => return (before, self.unfused(right, before)),
            (true, None, Some(_)) => return (self.unfused(operator, after), after),
            (true, Some(0), Some(0)) if self.is_around_opened(node, operators) => return (1, 1),
            _ => {}
        }
        match is_kept && (before == 0) != (after == 0) {
            true => {
                let usual = u8::from(key != Key::Power);
                let blanks = self.beside_its_like(node, operator).unwrap_or(usual);
                (self.unfused(operator, blanks), self.unfused(right, blanks))
            }
            false => (before, after),
        }
    }

    /// Whether a stronger operator in the operands of an operation, or of those that go on with it, is without
    /// blanks today and is to get some: `i*2-1+n` does not become `i * 2-1+n`.
    fn is_around_opened(&self, node: NodeId, operators: Operators) -> bool {
        let operator = |operation: NodeId| {
            let operator = self.first(self.part(operation, 1)?);
            Some((operator, row(operators, self.token_text(operator))?))
        };
        let row_of = |operation: NodeId| operator(operation).map(|(_, row)| row);
        let goes_on = |other: &NodeId| {
            self.kind(*other) == self.kind(node) && row_of(*other) == row_of(node)
        };
        let is_opened = |operand: NodeId| {
            self.kind(operand) == self.kind(node)
                && operator(operand).is_some_and(|(token, row)| {
                    self.present_blanks(token) == Some(0)
                        && self.choices.operator_gaps.of(operators[row].0) == Some(1)
                })
        };
        let outward = iter::successors(Some(node), |at| Some(self.parent(*at)).filter(goes_on));
        let mut operations = vec![outward.take(MOST_AROUND).last().unwrap_or(node)];
        for _ in 0..MOST_AROUND {
            let Some(operation) = operations.pop() else { break };
            let operands = [0, 2].into_iter().filter_map(|place| self.part(operation, place));
            for operand in operands {
                match goes_on(&operand) {
                    true => operations.push(operand),
                    false if is_opened(operand) => return true,
                    false => {}
                }
            }
        }
        false
    }

    /// The blanks on both sides of the nearest operator that is the same as an operation's own one and goes on
    /// with it: in one of its operands or around it.
    fn beside_its_like(&self, node: NodeId, operator: TokenId) -> Option<u8> {
        let is_like = |other: &NodeId| self.kind(*other) == self.kind(node);
        let inside = [0, 2].into_iter().filter_map(|place| self.part(node, place));
        let outward = iter::successors(Some(self.parent(node)), |at| Some(self.parent(*at)));
        let outward = outward.take(MOST_AROUND).take_while(is_like);
        inside.filter(is_like).chain(outward).find_map(|operation| {
            let like = self.first(self.part(operation, 1)?);
            let blanks = self.present_blanks(like)?.min(1);
            let is_even = self.present_blanks(like + 1)?.min(1) == blanks;
            (is_even && self.token_text(like) == self.token_text(operator)).then_some(blanks)
        })
    }

    /// The gap beside an operator in which no line ends.
    pub fn operator(&mut self, token: TokenId, key: Key) {
        if self.choices.operator_gaps.of(key).is_none() && !self.broken_before(token) {
            return self.keep_gap(token);
        }
        let blanks = self.beside(token, key);
        self.flat(token, blanks, Setting::OperatorGap);
        if matches!(key, Key::Assign | Key::Default) {
            self.column(token, Column::Value);
        }
    }

    /// The gaps on both sides of a sign (`=`), in which no line ends.
    pub fn sign(&mut self, sign: NodeId, value: NodeId, key: Key) {
        let (sign, value) = (self.first(sign), self.first(value));
        for token in [sign, value] {
            self.operator(token, key);
        }
        self.even_out(sign, value, key);
    }

    /// A value in several lines stays below its sign where somebody put it there; one that is a bracket with
    /// what it holds does not.
    pub fn stays_below(&mut self, sign: TokenId, value: NodeId, setting: Setting) {
        let (first, end) = (self.first(value), self.end(value));
        let is_bracket = self.tree.opens(self.token_text(first))
            && self.part(value, 0).is_some_and(|opener| self.end(opener) == first + 1);
        if self.choices.remembers
            && self.broken_before(first)
            && !is_bracket
            && self.takes_lines(first + 1, end)
        {
            let blanks = self.gap(first).blanks;
            self.assigned(sign, value, blanks, setting);
        }
    }

    /// As many blanks on both sides of a sign, where they stay as they are and there are some on one
    /// side only.
    pub fn even_out(&mut self, sign: TokenId, value: TokenId, key: Key) {
        let present = (self.present_blanks(sign), self.present_blanks(value));
        let is_kept = self.choices.operator_gaps.of(key).is_none();
        if let (true, (Some(before), Some(after))) = (is_kept, present)
            && (before == 0) != (after == 0)
        {
            self.flat(sign, 1, Setting::OperatorGap);
            let gap = self.gap(value);
            let want = if gap.want == Want::Break { Want::Break } else { Want::Flat };
            (gap.want, gap.blanks, gap.setting) = (want, 1, Setting::OperatorGap);
        }
    }

    /// The gap before the sign of a pair.
    pub fn before_pair_sign(&mut self, token: TokenId, key: Key) {
        match self.choices.pair_gaps.of(key) {
            Some((blanks, _)) => self.flat(token, blanks, Setting::PairGap),
            None => self.keep_gap(token),
        }
        self.column(token, Column::Value);
    }

    /// The gap behind the sign of a pair, in which no line ends.
    pub fn after_pair_sign(&mut self, token: TokenId, key: Key) {
        match self.choices.pair_gaps.of(key) {
            Some((_, blanks)) => {
                let blanks = self.blanks_behind_sign(token, blanks);
                self.flat(token, blanks, Setting::PairGap);
            }
            None => self.keep_gap(token),
        }
        self.column(token, Column::Value);
    }

    /// The blanks behind a colon: one that touches two others is not read as one.
    fn blanks_behind_sign(&self, token: TokenId, blanks: u8) -> u8 {
        let is_colon = self.token_text(token).starts_with(':');
        if is_colon { blanks.max(1) } else { blanks }
    }

    /// `level: 2`: a name, a sign and a value.
    pub fn pair(&mut self, parts: &[NodeId], key: Key) {
        if let [_, sign, value, ..] = parts {
            self.before_pair_sign(self.first(*sign), key);
            self.after_pair_sign(self.first(*value), key);
            self.stays_below(self.first(*sign), *value, Setting::PairGap);
        }
    }

    /// As [`Planner::pair`], with a value that may stand on the next line.
    pub fn broken_pair(&mut self, sign: NodeId, value: NodeId, key: Key) {
        let (sign, first) = (self.first(sign), self.first(value));
        self.before_pair_sign(sign, key);
        let blanks = match self.choices.pair_gaps.of(key) {
            Some((_, blanks)) => self.blanks_behind_sign(first, blanks),
            None => self.present_blanks(first).unwrap_or(1),
        };
        self.assigned(sign, value, blanks, Setting::PairGap);
    }

    /// An operator with two operands; operators of one row are broken together.
    pub fn binary(&mut self, binary: Binary) {
        let Binary { node, left, operator, right, operators, breakable, may_lead, stand_in } =
            binary;
        let right_first = self.first(right);
        let text = self.token_text(operator);
        let own = row(operators, text);
        let is_word = text.trim_start_matches('-').starts_with(|c: char| c.is_ascii_alphabetic());
        let (before, after, setting) = match own.map(|own| operators[own].0) {
            Some(key) if !is_word => {
                let (before, after) = self.around(binary, key);
                (before, after, Setting::OperatorGap)
            }
            _ => (1, 1, Setting::WordGap),
        };
        if !breakable {
            self.flat(operator, before, setting);
            self.flat(right_first, after, setting);
            return;
        }
        let handed = self.handed_chain(node);
        let group = handed.unwrap_or_else(|| self.leading_chain(node, Key::Condition));
        self.counts_from_sign(group);
        let is_logic = own.is_none_or(|own| operators[own].0 == Key::Logic);
        let end = self.end(node);
        // What stands below its operator is not drawn up to it.
        let is_chosen = self.choices.remembers
            && (self.broken_before(operator) || self.broken_before(right_first));
        let whole = self.group_mut(group);
        if handed.is_none() {
            whole.stand_in = stand_in.filter(|_| !is_chosen);
        }
        if whole.end == end {
            whole.slight = if is_logic { Slight::Never } else { Slight::Usual };
        }
        let goes_on = self.kind(left) == self.kind(node)
            && self.part(left, 1).is_some_and(|inner| {
                row(operators, self.token_text(self.first(inner))) == own
            });
        if goes_on {
            self.hand(left, Handed::Chain(group));
        }
        // One that binds to the right goes on there.
        let goes_on = self.kind(right) == self.kind(node)
            && self.part(right, 1).is_some_and(|inner| self.token_text(self.first(inner)) == text);
        if goes_on {
            self.hand(right, Handed::Chain(group));
        }
        if matches!(text, "+" | "..")
            && [left, right].into_iter().any(|operand| self.is_string(operand))
        {
            // A text in pieces is read along its lines.
            let own = self.group_mut(group);
            (own.fills, own.rows) = (true, Rows::Any);
        }
        if may_lead {
            self.break_beside(group, node, (operator, before), (right_first, after), setting);
        } else {
            self.flat(operator, before, setting);
            self.may_break_beside(right_first, group, after, setting);
        }
    }

    /// Whether a node is a string and nothing else.
    pub(super) fn is_string(&self, node: NodeId) -> bool {
        let first = self.first(node);
        self.end(node) == first + 1 && self.is_text(first)
    }

    /// The gaps on both sides of an operator, each with its blanks where no line ends: a chain is
    /// broken at the one that `operator_place` wants. Where somebody broke it at the other one,
    /// that counts.
    pub fn break_beside(
        &mut self,
        group: GroupId,
        node: NodeId,
        (operator, before): (TokenId, u8),
        (right, after): (TokenId, u8),
        setting: Setting,
    ) {
        // A comment beside the operator stays on its side.
        let (commented, other) = (self.after_comment(operator), self.after_comment(right));
        let (leads, trails) = (self.broken_before(operator), self.broken_before(right));
        let wanted = self.choices.operator_leads.unwrap_or_else(|| match (leads, trails) {
            (false, false) => {
                self.leads_in(group, self.parent(node)).unwrap_or_else(|| self.lead_around(node))
            }
            _ => leads,
        });
        let is_leading = commented || (wanted && !other);
        if is_leading {
            self.may_break_beside(operator, group, before, setting);
            self.flat(right, after, setting);
        } else {
            self.flat(operator, before, setting);
            self.may_break_beside(right, group, after, setting);
        }
        let (at, other, elsewhere) = match is_leading {
            true => (operator, right, trails),
            false => (right, operator, leads),
        };
        self.gap(at).chosen = elsewhere && self.choices.remembers;
        self.gap(other).breaks = Setting::OperatorPlace;
        // Blank lines divide a long chain.
        self.gap(at).most = self.choices.most_blank.min(1);
    }

    /// A gap beside an operator in which a line may end, as far in as `wrap_indent` has operators.
    fn may_break_beside(&mut self, token: TokenId, group: GroupId, blanks: u8, setting: Setting) {
        self.may_break(token, group, self.choices.operator_steps, blanks, setting);
        self.gap(token).inside = true;
    }

    /// Whether the operator of an operation of a chain that is planned already leads its line.
    fn leads_in(&self, group: GroupId, operation: NodeId) -> Option<bool> {
        let breaks = |place: usize| {
            let token = self.first(self.part(operation, place)?);
            Some(self.plan.gaps[token as usize].group == Some(group))
        };
        match (breaks(1)?, breaks(2)?) {
            (true, _) => Some(true),
            (_, true) => Some(false),
            _ => None,
        }
    }

    /// Whether the operators that a new line is to begin at lead it where either is kept: as the nearest one
    /// does that a line ends at, in the operations around this one, whether it is in brackets or not, or in
    /// its first operand.
    fn lead_around(&self, node: NodeId) -> bool {
        let is_like = |other: &NodeId| self.kind(*other) == self.kind(node);
        let outward = iter::successors(Some(self.parent(node)), |at| Some(self.parent(*at)));
        let inward = iter::successors(self.part(node, 0), |at| self.part(*at, 0));
        let is_bracketed = |other: &NodeId| {
            self.token_text(self.first(*other)) == "(" && self.parts(*other).len() == 3
        };
        let outward = outward
            .take(MOST_AROUND)
            .take_while(|other| is_like(other) || is_bracketed(other))
            .filter(is_like);
        let inward = inward.take(MOST_AROUND).take_while(is_like);
        let place = |operation: NodeId| {
            let [sign, right] = [1, 2].map(|place| self.part(operation, place));
            let (leads, trails) = (
                self.broken_before(self.first(sign?)),
                self.broken_before(self.first(right?)),
            );
            (leads || trails).then_some(leads)
        };
        outward.chain(inward).find_map(place).unwrap_or(true)
    }
}
