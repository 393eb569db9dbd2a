//! Methods, classes and modules, in the grammar's order.

use super::kinds::Kind;
use super::expressions::named;
use super::statements::{body, inside};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::NodeId;

/// The rule for a declaration; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::Method | Kind::SingletonMethod => method(p, node, parts),
        Kind::Class | Kind::SingletonClass | Kind::Module => class(p, node, parts),
        Kind::MethodParameters | Kind::LambdaParameters => {
            match parts.first().is_some_and(|first| p.token_text(p.first(*first)) == "(") {
                true => _ = p.list(parts, List::new().declaration()),
                false => p.commas(parts),
            }
        }
        Kind::DestructuredParameter => p.flat_list(parts),
        Kind::KeywordParameter => named(p, parts),
        Kind::OptionalParameter => {
            if let [_, sign, value] = parts {
                p.sign(*sign, *value, Key::Default);
            }
        }
        _ => return false,
    }
    true
}

/// What a statement is to the blank lines around it. What stands on one line stands together.
pub(super) fn sort(p: &Planner, node: NodeId) -> Sort {
    let is_outermost = p.is(p.parent(node), Kind::Program);
    let method = if is_outermost { Sort::Function } else { Sort::Member };
    match Kind::at(p, node) {
        Kind::Method | Kind::SingletonMethod if p.is_spread(node) => method,
        Kind::Class | Kind::SingletonClass | Kind::Module if p.is_spread(node) => Sort::Type,
        Kind::Identifier if is_access_word(p, node) => Sort::Member,
        Kind::Alias => Sort::Trail,
        Kind::Call if trails(p, node) => Sort::Trail,
        Kind::Call if is_outermost && is_import(p.token_text(p.first(node))) => Sort::Import,
        // `private def ebb`
        Kind::Call if p.is_spread(node) && declares(p, node) => method,
        // `sig { void }`, `desc "Shows the tide"`
        Kind::Call if !is_outermost && !stands_alone(p.token_text(p.first(node))) => Sort::Above,
        _ => Sort::Other,
    }
}

/// Words that say who may call the methods behind them.
fn is_access(word: &str) -> bool {
    matches!(word, "private" | "protected" | "public" | "module_function" | "private_class_method")
}

/// `private` by itself, for all methods behind it.
pub(super) fn is_access_word(p: &Planner, node: NodeId) -> bool {
    p.is(node, Kind::Identifier) && is_access(p.token_text(p.first(node)))
}

/// `private :ebb`, `alias_method :low, :ebb`: more of a method that is there.
fn trails(p: &Planner, node: NodeId) -> bool {
    let word = p.token_text(p.first(node));
    let is_named = || {
        let arguments = p.parts(node).last().map(|arguments| p.parts(*arguments));
        arguments.is_some_and(|arguments| {
            arguments.first().is_some_and(|first| p.is(*first, Kind::SimpleSymbol))
        })
    };
    (is_access(word) || matches!(word, "alias_method" | "memoize" | "helper_method")) && is_named()
}

/// Words that say what a class has and is, and nothing of the method below them.
fn stands_alone(word: &str) -> bool {
    word.starts_with("attr")
        || is_access(word)
        || is_import(word)
        || matches!(word, "include" | "extend" | "prepend" | "using")
}

fn is_import(word: &str) -> bool {
    matches!(word, "require" | "require_relative")
}

/// Whether the only argument of a call is a method that is declared there.
fn declares(p: &Planner, node: NodeId) -> bool {
    let is_method =
        |node: NodeId| matches!(Kind::at(p, node), Kind::Method | Kind::SingletonMethod);
    match &p.parts(node)[..] {
        [_, arguments] => match &p.parts(*arguments)[..] {
            [only] => is_method(*only) || (p.is(*only, Kind::Call) && declares(p, *only)),
            _ => false,
        },
        _ => false,
    }
}

/// `def self.ebb(level, now: nil) … end`, `def ebb = 1`
fn method(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let parameters = p.position(parts, Kind::MethodParameters);
    let sign = p.position(parts, Kind::Equals);
    let is_body = |part: &NodeId| {
        matches!(Kind::at(p, *part), Kind::Semicolon | Kind::BodyStatement | Kind::End)
    };
    let header = sign.or_else(|| parts.iter().position(is_body));
    let Some(header) = header.filter(|header| *header > 0) else { return };
    for (index, part) in parts[..header].iter().enumerate().skip(1) {
        let token = p.first(*part);
        match index {
            _ if Some(index) == parameters && p.token_text(token) == "(" => p.word(token, 0),
            _ => p.word(token, u8::from(index == 1 || Some(index) == parameters)),
        }
    }
    if let (Some(sign), Some(value)) = (sign, parts.last()) {
        // Without a blank the sign would be part of the name.
        p.word(p.first(parts[sign]), 1);
        return p.assigned(p.first(parts[sign]), *value, 1, Setting::WordGap);
    }
    let [own @ .., end] = &parts[header..] else { return };
    let own = inside(p, own);
    body(p, (p.first(node), p.end(parts[header - 1]) - 1), &own, *end, Key::Function);
}

/// `class Gauge < Instrument … end`, `class << self … end`, `module Saltmarsh … end`
fn class(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let is_body = |part: &NodeId| {
        matches!(Kind::at(p, *part), Kind::Semicolon | Kind::BodyStatement | Kind::End)
    };
    let header = parts.iter().position(is_body);
    let Some(header) = header.filter(|header| *header > 0) else { return };
    p.words(&parts[..header]);
    let [own @ .., end] = &parts[header..] else { return };
    let own = inside(p, own);
    body(p, (p.first(node), p.end(parts[header - 1]) - 1), &own, *end, Key::Type);
    let first = own.iter().map(|part| p.first(*part)).find(|token| p.begins_line(*token));
    if p.is(node, Kind::Module) && !p.indents_namespace(p.first(node), first) {
        p.stand_beside_namespace(&own);
    }
}
