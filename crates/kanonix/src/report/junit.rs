//! JUnit's XML, for build servers that show tests: a file is a test case, and fails by its slips.

use super::{count, lines};
use crate::service::judging::{Judged, Judgement};
use quick_junit::{NonSuccessKind, Report, TestCase, TestCaseStatus, TestSuite};

/// So many lines of a file's slips are written; the first ones tell.
const MOST_LINES: usize = 200;

pub(super) fn text(judgement: &Judgement) -> anyhow::Result<String> {
    let mut suite = TestSuite::new("kanonix");
    suite.add_test_cases(judgement.files.iter().map(case));
    for (path, reason) in &judgement.problems {
        let mut status = TestCaseStatus::non_success(NonSuccessKind::Error);
        status.set_message(reason.as_str()).set_type("unjudged");
        let mut case = TestCase::new(path.as_str(), status);
        case.set_classname("kanonix");
        suite.add_test_case(case);
    }
    let mut report = Report::new("kanonix");
    report.add_test_suite(suite);
    Ok(report.to_string()?)
}

fn case(file: &Judged) -> TestCase {
    let status = match file.slips.is_empty() && !file.stops {
        true => TestCaseStatus::success(),
        false => {
            let places = lines::of(file);
            let mut said: Vec<&str> = places.lines().take(MOST_LINES).collect();
            let more = format!("and {} more", places.lines().count() - said.len());
            if said.len() == MOST_LINES {
                said.push(&more);
            }
            let mut status = TestCaseStatus::non_success(NonSuccessKind::Failure);
            status.set_type("style").set_message(match file.slips.len() {
                // A stretch that does not parse, say, where the canon has that stop.
                0 => "it stops without a slip".to_string(),
                slips => count(slips, "slip"),
            });
            status.set_description(said.join("\n"));
            status
        }
    };
    let mut case = TestCase::new(file.inside.display().to_string(), status);
    case.set_classname(format!("kanonix.{}", file.language));
    case
}
