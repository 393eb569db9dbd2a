//! A judge of its own: another parser than ours says whether a text is still the same program.

mod compilers;
mod pages;

use anyhow::{Result, anyhow};
use kanonix_core::languages::Language;
use kanonix_core::layout::Sheet;
use kanonix_core::style::Style;
use proc_macro2::{Delimiter, Literal, Spacing, TokenStream, TokenTree};
use std::collections::HashSet;
use syn::visit_mut::VisitMut;

/// Whether `after` is the program that `before` is, as far as `style` does not ask for another one; `None`
/// where there is no judge for the language, or where it does not read `before`.
pub fn same(
    language: &Language,
    style: &Style,
    before: &str,
    after: &str,
) -> Option<Result<()>> {
    let read: fn(&str) -> Result<String> = match language.name {
        "rust" => rust,
        "toml" => toml,
        "css" => css,
        "scss" | "less" => |text| css(&without_line_comments(text)),
        "lua" => |text| compilers::lua(text.trim_start_matches('\u{feff}')),
        "ruby" => |text| compilers::ruby(text.trim_start_matches('\u{feff}')),
        "html" => pages::read,
        "java" if Sheet::drops_imports(style) => |text| Ok(without_unused_imports(&java(text)?)),
        "java" => java,
        "csharp" => |text| compilers::csharp(text.trim_start_matches('\u{feff}')),
        _ => return None,
    };
    if language.name == "html" && before.contains("{") {
        let bare = pages::without_actions;
        if let (Ok(before), Ok(after)) = (read(&bare(before)), read(&bare(after)))
            && before == after
        {
            return Some(Ok(()));
        }
    }
    let before = read(before).ok()?;
    Some(read(after).and_then(|after| match before == after {
        true => Ok(()),
        false => {
            let differs = before.lines().zip(after.lines()).find(|(a, b)| a != b);
            let (a, b) = differs.unwrap_or_default();
            let same = a.bytes().zip(b.bytes()).take_while(|(a, b)| a == b).count();
            let (a, b) = (shown(a, same), shown(b, same));
            Err(anyhow!("{a} became {b}"))
        }
    }))
}

fn java(text: &str) -> Result<String> {
    compilers::java(text.trim_start_matches('\u{feff}'))
}

/// What the compiler reads, without the imports of names that are in nothing else that it reads.
fn without_unused_imports(tree: &str) -> String {
    let import = |line: &&str| line.trim_start().starts_with("IMPORT ");
    let words: HashSet<&str> =
        tree.lines().filter(|line| !import(line)).flat_map(str::split_whitespace).collect();
    let is_used = |line: &str| {
        let name = line.rsplit('.').next().unwrap_or_default();
        name == "*" || words.contains(name)
    };
    let lines = tree.lines().filter(|line| !import(line) || is_used(line));
    lines.flat_map(|line| [line, "\n"]).collect()
}

/// A line from a little before the first difference.
fn shown(line: &str, same: usize) -> String {
    let from = (0..=same.saturating_sub(30)).rev().find(|at| line.is_char_boundary(*at));
    line[from.unwrap_or(0)..].chars().take(60).collect()
}

/// A file's values, by another reader than ours.
fn toml(text: &str) -> Result<String> {
    Ok(format!("{:#?}", text.parse::<toml::Table>()?))
}

/// A style sheet's tokens, one a line. Blanks count where they may be a combinator's or an
/// operator's; a semicolon before a closing brace says nothing.
fn css(text: &str) -> Result<String> {
    let mut tokens = Vec::new();
    let text = text.trim_start_matches("\u{feff}").replace("\r\n", "\n");
    let mut input = cssparser::ParserInput::new(&text);
    css_tokens(&mut cssparser::Parser::new(&mut input), &mut tokens, false);
    Ok(tokens.join("\n"))
}

/// A sheet without the comments that only its dialect has.
fn without_line_comments(text: &str) -> String {
    let (mut out, mut at) = (String::with_capacity(text.len()), 0);
    while let Some(c) = text[at..].chars().next() {
        let rest = &text[at..];
        let end = match c {
            '/' if rest.starts_with("//") => {
                at += rest.find('\n').unwrap_or(rest.len());
                continue;
            }
            '/' if rest.starts_with("/*") => rest.find("*/").map(|end| end + 2),
            '"' | '\'' => {
                let mut escaped = false;
                let mut inside = rest.char_indices().skip(1);
                let closes = inside.find(|(_, next)| {
                    let is_end = (*next == c && !escaped) || *next == '\n';
                    escaped = *next == '\\' && !escaped;
                    is_end
                });
                closes.map(|(end, _)| end + 1)
            }
            // One in quotes may have parentheses of its own.
            'u' if rest.starts_with("url(") && !rest[4..].starts_with(['"', '\'']) => {
                rest.find(')').map(|end| end + 1)
            }
            _ => Some(c.len_utf8()),
        };
        let end = end.unwrap_or(rest.len());
        out.push_str(&rest[..end]);
        at += end;
    }
    out
}

fn css_tokens(parser: &mut cssparser::Parser, tokens: &mut Vec<String>, calculates: bool) {
    const BLANK: &str = "blank";
    let is_mark = |token: &str| {
        ["Comma", "Semicolon", "Colon", "{", "}", "Delim('>')", "Delim('~')", "Delim('!')"]
            .contains(&token)
            // `[class *= "quay"]`
            || token.ends_with("Match")
            || (token == "Delim('+')" && !calculates)
    };
    while let Ok(token) = parser.next_including_whitespace().cloned() {
        let written = match &token {
            cssparser::Token::WhiteSpace(_) => BLANK.to_string(),
            cssparser::Token::CurlyBracketBlock => "{".to_string(),
            // The letters of a colour and of a unit mean the same in either case.
            cssparser::Token::Hash(color) | cssparser::Token::IDHash(color)
                if color.bytes().all(|byte| byte.is_ascii_hexdigit()) =>
            {
                format!("#{}", color.to_ascii_lowercase())
            }
            cssparser::Token::Dimension { value, unit, .. } => {
                format!("{value} {}", unit.to_ascii_lowercase())
            }
            token => format!("{token:?}"),
        };
        // Behind a parenthesis a word is another one, whether it touches that or not.
        let is_word = matches!(
            token,
            cssparser::Token::Ident(_)
                | cssparser::Token::Function(_)
                | cssparser::Token::QuotedString(_)
                | cssparser::Token::Number { .. }
                | cssparser::Token::Percentage { .. }
                | cssparser::Token::Dimension { .. }
        );
        let closes = |last: &String| {
            last == "close" || last.starts_with("UnquotedUrl") || last.starts_with("BadUrl")
        };
        if is_word && tokens.last().is_some_and(closes) {
            tokens.push(BLANK.to_string());
        }
        let last = tokens.last().map(String::as_str);
        // What stands behind an at-rule's name does so with a blank or without.
        let ends = |last: &str| {
            last == BLANK
                || is_mark(last)
                || last.starts_with("open")
                || last.starts_with("AtKeyword")
        };
        if written == BLANK && last.is_none_or(ends) {
            continue;
        }
        if is_mark(&written) {
            tokens.pop_if(|last| last == BLANK);
        }
        let opens = matches!(
            token,
            cssparser::Token::Function(_)
                | cssparser::Token::ParenthesisBlock
                | cssparser::Token::SquareBracketBlock
                | cssparser::Token::CurlyBracketBlock
        );
        tokens.push(if opens && written != "{" { format!("open {written}") } else { written });
        let selects = matches!(
            &token,
            cssparser::Token::Function(name)
                if ["has", "is", "not", "where"].iter().any(|own| name.eq_ignore_ascii_case(own))
        );
        if opens {
            let closes = if tokens.last().is_some_and(|last| last == "{") { "}" } else { "close" };
            let inside = parser.parse_nested_block(|inner| {
                css_tokens(inner, tokens, closes != "}" && !selects);
                Ok::<(), cssparser::ParseError<()>>(())
            });
            debug_assert!(inside.is_ok());
            tokens.pop_if(|last| last == BLANK);
            tokens.pop_if(|last| last == "Semicolon" && closes == "}");
            tokens.push(closes.to_string());
        }
    }
}

/// A text's syntax tree, written down without what stands between the elements of a list, which
/// may have a comma behind its last one or none.
fn rust(text: &str) -> Result<String> {
    // As the language's reference has it: line ends are one character before anything is read.
    let mut file = syn::parse_file(&text.replace("\r\n", "\n"))?;
    Macros.visit_file_mut(&mut file);
    let tree = format!("{file:#?}");
    let is_comma = |line: &&str| {
        let line = line.trim();
        line == "Comma," || line == "Some(Comma)," || line.starts_with("comma: ")
    };
    // An optional comma takes three lines: `comma: Some(`, the comma, and the bracket.
    let mut kept: Vec<&str> = Vec::new();
    let mut lines = tree.lines().peekable();
    while let Some(line) = lines.next() {
        if line.trim() == "comma: Some(" {
            lines.by_ref().take(2).for_each(drop);
        } else if !is_comma(&line) {
            kept.push(line);
        }
    }
    Ok(kept.join("\n"))
}

/// Writes what stands in a macro's brackets down as its tokens, however they are apart.
struct Macros;

impl VisitMut for Macros {
    fn visit_attribute_mut(&mut self, found: &mut syn::Attribute) {
        if let syn::Meta::NameValue(meta) = &mut found.meta
            && meta.path.is_ident("doc")
            && let syn::Expr::Lit(value) = &mut meta.value
            && let syn::Lit::Str(text) = &value.lit
        {
            // The compiler takes away what a starred comment's lines begin with.
            let doc = text.value();
            let lines: Vec<&str> = doc.trim_end().lines().map(str::trim_start).collect();
            if lines.len() > 1 && lines[1..].iter().all(|line| line.starts_with('*')) {
                value.lit = syn::LitStr::new(&lines.join("\n"), text.span()).into();
            }
        }
        syn::visit_mut::visit_attribute_mut(self, found);
    }

    fn visit_macro_mut(&mut self, found: &mut syn::Macro) {
        found.tokens = written(found.tokens.clone());
    }

    fn visit_meta_list_mut(&mut self, found: &mut syn::MetaList) {
        found.tokens = written(found.tokens.clone());
    }
}

fn written(tokens: TokenStream) -> TokenStream {
    let mut words = Vec::new();
    write(tokens, &mut words);
    TokenTree::from(Literal::string(&words.join(" "))).into()
}

/// What a compiler takes for one token although it is several marks, the longest first.
const OPERATORS: &[&str] = &[
    "<<=", ">>=", "...", "..=", "&&", "||", "<<", ">>", "+=", "-=", "*=", "/=", "%=", "^=", "&=",
    "|=", "==", "!=", ">=", "<=", "..", "::", "->", "=>", "<-",
];

fn write(tokens: TokenStream, words: &mut Vec<String>) {
    let mut marks = String::new();
    let end = |marks: &mut String, words: &mut Vec<String>| {
        let mut rest = std::mem::take(marks);
        while let Some(first) = rest.chars().next() {
            let found = OPERATORS.iter().find(|operator| rest.starts_with(**operator));
            let length = found.map_or(first.len_utf8(), |operator| operator.len());
            words.push(rest.drain(..length).collect());
        }
    };
    for token in tokens {
        match token {
            TokenTree::Punct(mark) => {
                marks.push(mark.as_char());
                if mark.spacing() == Spacing::Alone {
                    end(&mut marks, words);
                }
                continue;
            }
            TokenTree::Group(group) => {
                end(&mut marks, words);
                let (opener, closer) = match group.delimiter() {
                    Delimiter::Parenthesis => ("(", ")"),
                    Delimiter::Bracket => ("[", "]"),
                    Delimiter::Brace => ("{", "}"),
                    Delimiter::None => ("", ""),
                };
                words.push(opener.to_string());
                write(group.stream(), words);
                words.push(closer.to_string());
            }
            // A compiler reads the field and the mark behind it from what looks like a number.
            TokenTree::Literal(field)
                if words.last().is_some_and(|word| word == ".")
                    && field.to_string().ends_with('.') =>
            {
                end(&mut marks, words);
                words.push(field.to_string().trim_end_matches('.').into());
                words.push(".".into());
            }
            other => {
                end(&mut marks, words);
                words.push(other.to_string());
            }
        }
    }
    end(&mut marks, words);
}

#[cfg(test)]
mod tests {
    use super::*;
    use kanonix_core::languages::by_name;

    fn judge(before: &str, after: &str) -> Option<bool> {
        let rust = by_name("rust").unwrap();
        same(rust, &rust.style(), before, after).map(|judged| judged.is_ok())
    }

    #[test]
    fn blanks_and_last_commas_are_no_part_of_a_program() {
        let spread = "fn ebb() {\n    warn!(1, a  <b);\n    call(\n        1,\n    )\n}";
        assert_eq!(judge(spread, "fn ebb(){warn!(1,a< b);call(1)}"), Some(true));
        assert_eq!(
            judge("fn f() { match a { _ => 1, } }", "fn f() { match a { _ => 1 } }"),
            Some(true)
        );
    }

    #[test]
    fn an_import_that_is_in_nothing_else_may_go_and_no_other() {
        let read =
            "  IMPORT a.Ebb\n  IMPORT a.Flow\n  IMPORT a.*\n  CLASS Quay\n    IDENTIFIER Flow\n";
        let wanted = read.replace("  IMPORT a.Ebb\n", "");
        assert_eq!(without_unused_imports(read), wanted);
        assert_eq!(without_unused_imports(&wanted), wanted);
    }

    #[test]
    fn a_starred_comment_may_stand_further_in() {
        let deep = "/** high\n     * and low\n     */\nfn f() {}";
        assert_eq!(judge(deep, "/** high\n * and low\n */\nfn f() {}"), Some(true));
    }

    #[test]
    fn anything_else_is() {
        assert_eq!(judge("fn f() { a[..=b] }", "fn f() { a[.. =b] }"), Some(false));
        assert_eq!(judge("fn f() { m!(a.0. b) }", "fn f() { m!(a.0.b) }"), Some(true));
        assert_eq!(judge("fn f() { m!(a, 0. b) }", "fn f() { m!(a, 0.b) }"), Some(false));
        assert_eq!(judge("fn f() { m!(a <- b) }", "fn f() { m!(a < -b) }"), Some(false));
        assert_eq!(judge("fn f() { (a,) }", "fn f() { (a) }"), Some(false));
        assert_eq!(judge("fn f() { m!(a,) }", "fn f() { m!(a) }"), Some(false));
        assert_eq!(judge("/// high\nfn f() {}", "///  high\nfn f() {}"), Some(false));
        assert_eq!(
            judge("/**\n * a\n  b */\nfn f() {}", "/**\n* a\n  b */\nfn f() {}"),
            Some(false)
        );
        assert_eq!(judge("fn f( {", "fn f() {}"), None);
    }
}
