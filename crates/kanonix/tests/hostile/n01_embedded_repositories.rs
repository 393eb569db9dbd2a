//! Repositories inside the tree, whose own configuration names commands.

use super::{Ground, LOOKS};
use std::fs;

/// What a configuration can have git run.
fn configuration(ground: &Ground, worktree: &str) -> String {
    let attack = ground.attack().display().to_string();
    format!(
        "[core]\n\trepositoryformatversion = 0\n\tbare = false\n\t{worktree}\n\
         \tfsmonitor = {attack}\n\tsshCommand = {attack}\n\tpager = {attack}\n\teditor = {attack}\n\
         \thooksPath = {hooks}\n\tgitProxy = {attack}\n\taskPass = {attack}\n\
         [filter \"evil\"]\n\tclean = {attack}\n\tsmudge = {attack}\n\trequired = true\n\
         [filter \"ev=il\"]\n\tclean = {attack}\n\tsmudge = {attack}\n\
         [diff]\n\texternal = {attack}\n[diff \"evil\"]\n\tcommand = {attack}\n\ttextconv = {attack}\n\
         [credential]\n\thelper = {attack}\n[protocol]\n\tallow = always\n\
         [protocol \"ext\"]\n\tallow = always\n",
        hooks = ground.attack().parent().unwrap().display(),
    )
}

/// A folder that looks like a repository without a working tree, as a clone may bring it.
fn embed(ground: &Ground, folder: &str) {
    let repo = &ground.repo;
    repo.write(&format!("{folder}/HEAD"), "ref: refs/heads/main\n");
    repo.write(&format!("{folder}/objects/info/keep"), "");
    repo.write(&format!("{folder}/refs/heads/keep"), "");
    repo.write(&format!("{folder}/config"), configuration(ground, "worktree = ."));
    repo.write(&format!("{folder}/.gitattributes"), "*.py filter=evil diff=evil\n");
    repo.write(&format!("{folder}/a.py"), "a=1\n");
}

/// Every command, from the top, from inside, and with the paths inside named.
fn look_everywhere(ground: &Ground, folder: &str) {
    let inside = format!("{folder}/a.py");
    for words in LOOKS {
        ground.kanonix(words);
        if ground.repo.path(folder).join("a.py").exists() {
            ground.kanonix_in(folder, words);
        }
        fs::write(ground.repo.path(&inside), "a=1\n").unwrap();
    }
    for words in [
        &["check"][..],
        &["mend"],
        &["mend", "--whole"],
        &["check", "--whole"],
        &["explain"],
    ] {
        ground.kanonix(&[words, &[inside.as_str()]].concat());
        fs::write(ground.repo.path(&inside), "a=1\n").unwrap();
    }
    ground.serve(&inside);
}

#[test]
fn what_looks_like_a_repository_is_a_folder_like_any_other() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    embed(&ground, "vendor/evil");
    ground.repo.commit("bring it");
    // Git by itself does run it.
    let mut git = ground.repo.command("git");
    git.args(["-C", "vendor/evil", "-c", "safe.bareRepository=all", "status"]);
    git.output().unwrap();
    assert!(ground.marker().exists(), "the hostile thing is none");
    fs::remove_file(ground.marker()).unwrap();
    look_everywhere(&ground, "vendor/evil");
    // It belongs to the repository around it.
    ground.repo.write("vendor/evil/a.py", "a=1\nb=2\n");
    let said = ground.kanonix(&["check", "vendor/evil/a.py"]);
    assert_eq!((said.status, said.out.lines().count()), (1, 1), "{said:?}");
}

#[test]
fn a_git_that_is_too_old_to_know_is_kept_from_it_too() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    embed(&ground, "vendor/evil");
    ground.repo.commit("bring it");
    let real = ["/usr/local/bin/git", "/usr/bin/git"].into_iter().find(|p| fs::exists(p).unwrap());
    let wrapper = format!(
        "#!/bin/bash\nwords=()\nfor word in \"$@\"; do\n  case \"$word\" in\n    \
         safe.bareRepository=*) words+=(\"safe.bareRepository=all\") ;;\n    *) words+=(\"$word\") \
         ;;\n  esac\ndone\nexec {} \"${{words[@]}}\"\n",
        real.unwrap()
    );
    ground.tool("git", &wrapper);
    look_everywhere(&ground, "vendor/evil");
}

#[test]
fn a_repository_that_an_archive_brought_runs_no_filter() {
    let ground = Ground::with(&[("a.py", "a = 1\n"), (".gitignore", "unpacked\n")]);
    let repo = &ground.repo;
    repo.write("unpacked/a.py", "a = 1\n");
    repo.git(&["-C", "unpacked", "init", "--quiet", "--initial-branch=main", "."]);
    repo.git(&["-C", "unpacked", "add", "."]);
    repo.git(&["-C", "unpacked", "commit", "--quiet", "-m", "before"]);
    repo.write("unpacked/.gitattributes", "*.py filter=evil diff=evil\n");
    repo.write("unpacked/.git/info/attributes", "*.py filter=ev=il\n");
    repo.write("unpacked/.git/config", configuration(&ground, ""));
    repo.write("unpacked/a.py", "a=1\n");
    for words in [
        &["check", "unpacked"][..],
        &["check", "unpacked/a.py"],
        &["check", "--staged", "unpacked"],
        &["check", "--since", "HEAD", "unpacked"],
        &["mend", "--staged", "unpacked"],
        &["mend", "unpacked/a.py"],
        &["explain", "unpacked/a.py"],
        &["check", "--whole"],
    ] {
        ground.kanonix(words);
    }
    ground.serve("unpacked/a.py");
    // A staged text whose working file differs would have to go through the filter.
    repo.write("unpacked/a.py", "a=5\n");
    let blob = repo.git(&["-C", "unpacked", "hash-object", "-w", "--no-filters", "a.py"]);
    let entry = format!("100644,{},a.py", blob.trim());
    let by_hand = ["-C", "unpacked", "-c", "core.fsmonitor=", "-c", "core.hooksPath=/dev/null"];
    repo.git(&[&by_hand[..], &["update-index", "--add", "--cacheinfo", &entry]].concat());
    let _ = fs::remove_file(ground.marker());
    repo.write("unpacked/a.py", "a=5\nb=2\n");
    let said = ground.kanonix(&["mend", "--staged", "unpacked"]);
    assert_eq!(said.status, 3, "{said:?}");
    assert!(said.err.contains("run Kanonix there"), "{said:?}");
}

#[test]
fn what_the_surroundings_say_leads_nowhere_else() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    embed(&ground, "vendor/evil");
    ground.repo.commit("bring it");
    ground.repo.write("a.py", "a=1\n");
    let mut command = ground.command(env!("CARGO_BIN_EXE_kanonix"));
    command.args(["check"]).env("GIT_DIR", ground.repo.path("vendor/evil"));
    command.env("GIT_WORK_TREE", ground.outside("")).env("GIT_EXTERNAL_DIFF", ground.attack());
    let said = ground.said(command, &"GIT_DIR");
    assert_eq!((said.status, said.out.lines().count()), (1, 1), "{said:?}");
}

#[test]
fn a_hook_that_git_started_judges_the_index_that_it_is_told_of() {
    let ground = Ground::with(&[("a.py", "a = 1\n"), ("b.py", "b = 1\n")]);
    let repo = &ground.repo;
    assert_eq!(ground.kanonix(&["gate", "install"]).status, 0);
    repo.write("a.py", "a=2\n");
    repo.write("b.py", "b = 2\n");
    // Of named paths, git makes an index of its own.
    assert_eq!(repo.try_git(&["commit", "-m", "b", "b.py"]).status, 0);
    assert_eq!(repo.try_git(&["commit", "-m", "a", "a.py"]).status, 1);
    repo.git(&["worktree", "add", "--quiet", "../linked"]);
    let linked = repo.root().parent().unwrap().join("linked");
    fs::write(linked.join("a.py"), "a=3\n").unwrap();
    let linked = linked.display().to_string();
    let said = repo.try_git(&["-C", &linked, "commit", "-am", "a"]);
    fs::remove_dir_all(&linked).unwrap();
    assert_eq!(said.status, 1, "{said:?}");
    assert!(said.err.contains("stopped, 1 line"), "{said:?}");
}

#[test]
fn a_followed_canon_is_fetched_over_no_other_program() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let attack = ground.attack().display().to_string();
    ground.repo.git(&["config", "core.sshCommand", &attack]);
    for address in [
        format!("ext::{attack}"),
        format!("--upload-pack={attack}"),
        "fd::0".to_string(),
        "ssh://saltmarsh.invalid/canon".to_string(),
    ] {
        ground.repo.write("kanonix.toml", format!("[team]\nfollow = '{address}'\n"));
        let said = ground.kanonix(&["settle", "--follow"]);
        assert_ne!(said.status, 0, "{said:?}");
    }
}

#[test]
fn a_submodule_and_a_linked_tree_of_our_own_are_ours() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let repo = &ground.repo;
    let team = ground.outside("team");
    fs::create_dir_all(&team).unwrap();
    let team = team.display().to_string();
    repo.git(&["-C", &team, "init", "--quiet", "--initial-branch=main", "."]);
    fs::write(format!("{team}/b.py"), "b = 1\n").unwrap();
    repo.git(&["-C", &team, "add", "."]);
    repo.git(&["-C", &team, "commit", "--quiet", "-m", "before"]);
    repo.git(&["-c", "protocol.file.allow=always", "submodule", "--quiet", "add", &team, "team"]);
    repo.git(&["-C", "team", "config", "filter.tide.clean", "cat"]);
    repo.git(&["-C", "team", "config", "filter.tide.smudge", "cat"]);
    repo.write("team/.gitattributes", "*.py filter=tide\n");
    repo.write("team/b.py", "b=2\n");
    repo.git(&["-C", "team", "add", "b.py"]);
    repo.write("team/b.py", "b=2\nc=3\n");
    let said = ground.kanonix(&["mend", "--staged", "team"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert_eq!(repo.read("team/b.py"), "b = 2\nc=3\n");
}
