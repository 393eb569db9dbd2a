//! How a language writes its table of kinds.

/// Declares a language's kinds of node as an enum, with what the table says of each:
///
/// ```text
/// kinds! {
///     statements { Module }                     what a fault costs one of
///     words { ReturnStatement }                 one blank between its parts
///     ruled { Call, Dots = "..." }              a rule lays it out
///     separators { Comma = "," }
/// }
/// ```
///
/// A kind is called as the grammar calls it, in one word; another name of the grammar's is said.
#[allow(unused_macros, reason = "the program may be built without any language")]
macro_rules! kinds {
    ($($said:ident { $($kind:ident $(= $name:literal)?),* $(,)? })*) => {
        /// The grammar's kinds of node that the table has; the others are `Other`.
        #[derive(Clone, Copy, Debug, PartialEq, Eq)]
        #[repr(u16)]
        pub(super) enum Kind { $($($kind,)*)* Other }

        const ALL: &[Kind] = &[$($(Kind::$kind,)*)* Kind::Other];

        pub(super) static KINDS: crate::syntax::Kinds = crate::syntax::Kinds {
            file: file!(),
            entries: &[
                $($(crate::syntax::KindEntry {
                    own: stringify!($kind),
                    name: kinds!(@name $($name)?),
                    said: kinds!(@said $said),
                },)*)*
                crate::syntax::KindEntry {
                    own: "Other",
                    name: Some("a kind that the table does not have"),
                    said: crate::syntax::Said::Ruled,
                },
            ],
        };

        impl Kind {
            /// The kind of this number in the table.
            pub(super) fn of(number: u16) -> Kind {
                ALL.get(number as usize).copied().unwrap_or(Kind::Other)
            }

            /// A node's kind.
            pub(super) fn at(
                p: &crate::layout::planner::Planner,
                node: crate::syntax::NodeId,
            ) -> Kind {
                Kind::of(p.kind(node))
            }
        }

        impl From<Kind> for u16 {
            fn from(kind: Kind) -> u16 {
                kind as u16
            }
        }
    };
    (@name) => { None };
    (@name $name:literal) => { Some($name) };
    (@said ruled) => { crate::syntax::Said::Ruled };
    (@said words) => { crate::syntax::Said::Words };
    (@said tight) => { crate::syntax::Said::Tight };
    (@said commas) => { crate::syntax::Said::Commas };
    (@said pairs) => { crate::syntax::Said::Pair };
    (@said plain) => { crate::syntax::Said::Plain };
    (@said marks) => { crate::syntax::Said::Mark };
    (@said separators) => { crate::syntax::Said::Separator };
    (@said bodies) => { crate::syntax::Said::Body };
    (@said statements) => { crate::syntax::Said::Statements };
    (@said wrappers) => { crate::syntax::Said::Wrapper };
    (@said loose) => { crate::syntax::Said::Loose };
    (@said atoms) => { crate::syntax::Said::Atom };
    (@said comments) => { crate::syntax::Said::Comment };
    (@said joins) => { crate::syntax::Said::Join };
    (@said heredocs) => { crate::syntax::Said::Heredoc };
    (@said texts) => { crate::syntax::Said::Text };
    (@said unread) => { crate::syntax::Said::Unread };
}
#[allow(unused_imports, reason = "as above")]
pub(crate) use kinds;
