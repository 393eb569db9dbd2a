//! How JSON is laid out, in the grammar's order.

use crate::layout::plan::GroupId;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::List;
use crate::style::Setting;
use crate::languages::kinds::kinds;
use crate::syntax::NodeId;

kinds! {
    statements {
        Document, Object, Array,
    }
    atoms {
        String,
    }
    comments {
        Comment,
    }
    pairs {
        Pair,
    }
    separators {
        Comma = ",",
    }
}

/// The rule for a node.
pub(super) fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    match Kind::at(p, node) {
        Kind::Document => document(p, parts),
        // `{ "high": 5.1, "low": -0.4 }`
        Kind::Object => _ = p.list(parts, List::new().collection().opens_around_lines()),
        // `[1.2, 1.4, 1.9]`
        Kind::Array => _ = p.list(parts, List::new().collection()),
        _ => return false,
    }
    true
}

/// `{ "level": 2 }`, alone in its file; some files hold one value a line.
fn document(p: &mut Planner, parts: &[NodeId]) {
    for part in parts {
        p.line(p.first(*part), GroupId::ROOT, 0, Setting::BlankLines);
    }
}
