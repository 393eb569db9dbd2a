//! What a branch is to be merged into, where nobody has said so: what the build server put into the
//! environment, or else the remote's own branch.

use crate::options::BadOption;
use anyhow::bail;
use kanonix_core::text::visible;
use kanonix_repo::git::Repository;

/// A variable in which a build server names the branch that a pull request is for.
pub(crate) struct Variable {
    pub name: &'static str,
    /// Another variable that has to be there, and what it must not say; without one, it is there
    /// for pull requests alone.
    pub only_with: Option<(&'static str, &'static [&'static str])>,
}

const fn variable(name: &'static str) -> Variable {
    Variable { name, only_with: None }
}

const fn variable_with(
    name: &'static str,
    other: &'static str,
    not: &'static [&'static str],
) -> Variable {
    Variable { name, only_with: Some((other, not)) }
}

/// Those that are known, in the order in which they are looked at. `docs/build-server.md` has them,
/// too.
pub(crate) const VARIABLES: &[Variable] = &[
    variable("GITHUB_BASE_REF"),
    variable("CI_MERGE_REQUEST_TARGET_BRANCH_NAME"),
    variable("BITBUCKET_PR_DESTINATION_BRANCH"),
    variable("SYSTEM_PULLREQUEST_TARGETBRANCH"),
    variable("CHANGE_TARGET"),
    variable("BUILDKITE_PULL_REQUEST_BASE_BRANCH"),
    variable("CIRRUS_BASE_BRANCH"),
    variable("CODEBUILD_WEBHOOK_BASE_REF"),
    variable("BITRISEIO_GIT_BRANCH_DEST"),
    variable("CI_COMMIT_TARGET_BRANCH"),
    variable("CF_PULL_REQUEST_TARGET"),
    variable_with("DRONE_TARGET_BRANCH", "DRONE_PULL_REQUEST", &[]),
    variable_with("TRAVIS_BRANCH", "TRAVIS_PULL_REQUEST", &["false"]),
    variable_with("APPVEYOR_REPO_BRANCH", "APPVEYOR_PULL_REQUEST_NUMBER", &[]),
    variable_with("SEMAPHORE_GIT_BRANCH", "SEMAPHORE_GIT_PR_NUMBER", &[]),
];

/// What a branch is to be merged into.
#[derive(Debug, PartialEq, Eq)]
pub(crate) struct Target {
    /// The revision.
    pub revision: String,
    /// What says so, where nobody has said it in the call.
    pub because: Option<String>,
}

/// The target that was named, that the environment names, or that the remote has.
pub(crate) fn target(named: Option<&str>, repository: &Repository) -> anyhow::Result<Target> {
    if let Some(revision) = named {
        return Ok(Target { revision: revision.into(), because: None });
    }
    if let Some((variable, branch)) = said_by(|name| std::env::var(name).ok()) {
        let Some(revision) = repository.branch(&branch)? else {
            let branch = visible(&branch);
            bail!(BadOption(format!(
                "{variable} says that this is to be merged into `{branch}`, and this clone does not \
                 have it: git fetch origin {branch}:refs/remotes/origin/{branch}"
            )));
        };
        return Ok(Target { revision, because: Some(variable.into()) });
    }
    match repository.remotes_branch()? {
        Some(revision) => {
            Ok(Target { revision, because: Some("the remote's default branch".into()) })
        }
        None => bail!(BadOption(
            "say what this is to be merged into: no build server has named it, and no remote has a \
             default branch here: kanonix gate merge --into origin/main, or git remote set-head \
             origin --auto"
            .into()
        )),
    }
}

/// The variable that names a branch in these surroundings, and the branch.
fn said_by(read: impl Fn(&str) -> Option<String>) -> Option<(&'static str, String)> {
    let read = |name: &str| read(name).filter(|value| !value.is_empty());
    VARIABLES.iter().find_map(|variable| {
        let holds = variable.only_with.is_none_or(|(other, not)| {
            read(other).is_some_and(|value| !not.contains(&value.as_str()))
        });
        let value = read(variable.name).filter(|_| holds)?;
        let branch = value.strip_prefix("refs/heads/").unwrap_or(&value);
        Some((variable.name, branch.to_string()))
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_variable_names_the_target_and_only_for_a_pull_request() {
        for variable in VARIABLES {
            let with = |value: &'static str, other: Option<&'static str>| {
                said_by(|name| match name {
                    _ if name == variable.name => Some(value.to_string()),
                    _ if variable.only_with.is_some_and(|(own, _)| own == name) => {
                        other.map(str::to_string)
                    }
                    _ => None,
                })
            };
            let main = Some((variable.name, "main".to_string()));
            assert_eq!(with("main", Some("17")), main);
            assert_eq!(with("refs/heads/main", Some("17")), main);
            assert_eq!(with("", Some("17")), None);
            if let Some((_, not)) = variable.only_with {
                assert_eq!(with("main", None), None);
                not.iter().for_each(|word| assert_eq!(with("main", Some(word)), None));
            }
        }
    }

    #[test]
    fn the_page_for_build_servers_has_each_of_them() {
        let page = include_str!("../../../../../docs/build-server.md");
        for variable in VARIABLES {
            assert!(page.contains(&format!("`{}`", variable.name)), "{}", variable.name);
        }
    }
}
