//! What a client calls a text: a URI (RFC 3986), which may name a file (RFC 8089).

use crate::service::places::in_address;
use kanonix_repo::system::{bytes_of, path_of};
use percent_encoding::percent_decode_str;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// A URI, just as the client has written it. Two of them that differ name two texts.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) struct Address(Arc<str>);

impl Address {
    /// Reads a URI: a scheme, a colon, and more.
    pub fn parse(text: &str) -> Option<Address> {
        let (scheme, _) = text.split_once(':')?;
        let is_scheme = scheme.starts_with(|c: char| c.is_ascii_alphabetic())
            && scheme.chars().all(|c| c.is_ascii_alphanumeric() || "+-.".contains(c));
        is_scheme.then(|| Address(text.into()))
    }

    /// The URI of an absolute path, with what it points at inside the file, if anything.
    pub fn of_file(path: &Path, fragment: Option<&str>) -> Option<Address> {
        let mut text = format!("file://{}", in_address(bytes_of(path)));
        if let Some(fragment) = fragment {
            text.push_str(&format!("#{}", in_address(fragment.as_bytes())));
        }
        path.is_absolute().then(|| Address(text.into()))
    }

    /// As the client has written it.
    pub fn as_str(&self) -> &str {
        &self.0
    }

    /// The file that it names on this machine, if it names one.
    pub fn file(&self) -> Option<PathBuf> {
        let (scheme, rest) = self.0.split_once(':')?;
        let rest = rest.split(['?', '#']).next()?;
        let path = match rest.strip_prefix("//") {
            Some(rest) => rest.strip_prefix("localhost").unwrap_or(rest),
            None => rest,
        };
        let is_file = scheme.eq_ignore_ascii_case("file") && path.starts_with('/');
        let bytes: Vec<u8> = percent_decode_str(path).collect();
        (is_file && !bytes.contains(&0)).then(|| path_of(&bytes))
    }
}

impl std::fmt::Display for Address {
    fn fmt(&self, f: &mut std::fmt::Formatter) -> std::fmt::Result {
        f.write_str(&self.0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_path_goes_there_and_comes_back() {
        for path in ["/tide/a b.py", "/é/%41#?.py", "/a:b/[c]", "/"] {
            let address = Address::of_file(Path::new(path), None).unwrap();
            assert_eq!(address.file().as_deref(), Some(Path::new(path)), "{address}");
        }
        let marked = Address::of_file(Path::new("/a.md"), Some("paren_gap")).unwrap();
        assert_eq!(marked.as_str(), "file:///a.md#paren_gap");
        assert_eq!(marked.file().as_deref(), Some(Path::new("/a.md")));
    }

    #[test]
    fn what_names_no_file_of_this_machine_has_none() {
        for text in [
            "untitled:Untitled-1",
            "file://quay/a.py",
            "file:a.py",
            "file:///a%00b",
            "x:/a",
        ] {
            assert_eq!(Address::parse(text).unwrap().file(), None, "{text}");
        }
        assert_eq!(Address::parse("file://localhost/a").unwrap().file(), Some("/a".into()));
        assert!(Address::parse("/tide/a.py").is_none() && Address::parse("1a:b").is_none());
    }
}
