//! Git and the choice of files, with a real git in a temporary folder.

use kanonix_core::text::{Bases, LineSet};
use kanonix_repo::git::{GitError, Repository, Staging};
use kanonix_repo::work::{
    CanonOf,
    InPlay,
    Merge,
    NotLoaded,
    Reach,
    Selection,
    Source,
    Why,
    WorkError,
    select,
};
use std::fs;
use std::path::{Path, PathBuf};
use std::process::Command;
use tempfile::TempDir;

struct Tree {
    _folder: TempDir,
    root: PathBuf,
}

impl Tree {
    fn new(files: &[(&str, &str)]) -> Tree {
        let folder = tempfile::tempdir().unwrap();
        let root = fs::canonicalize(folder.path()).unwrap();
        let tree = Tree { _folder: folder, root };
        tree.git(&["init", "--quiet", "--initial-branch=main", "."]);
        for (path, text) in files {
            tree.write(path, text);
        }
        tree.git(&["add", "--all"]);
        tree.git(&["commit", "--quiet", "--allow-empty", "-m", "before"]);
        tree
    }

    fn write(&self, path: &str, text: &str) {
        let path = self.root.join(path);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(path, text).unwrap();
    }

    fn git(&self, words: &[&str]) {
        let identity = ["-c", "user.name=Keeper", "-c", "user.email=keeper@saltmarsh.example"];
        let mut command = Command::new("git");
        command.current_dir(&self.root).args(identity).args(words);
        let output = command.env("GIT_CONFIG_GLOBAL", "/dev/null").output().unwrap();
        assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    }

    fn repository(&self) -> Repository {
        Repository::find(&self.root).unwrap().unwrap()
    }

    fn select(&self, paths: &[&str], reach: &Reach) -> Selection {
        let paths: Vec<PathBuf> = paths.iter().map(PathBuf::from).collect();
        select(&self.root, &paths, reach).unwrap()
    }
}

fn shown(selection: &Selection) -> Vec<&str> {
    selection.items.iter().map(|item| item.shown.as_str()).collect()
}

/// The lines in play of the only item.
fn lines(selection: &Selection) -> LineSet {
    let loaded = selection.load(&selection.items[0]).unwrap();
    loaded.play.lines(&loaded.text)
}

#[test]
fn a_repository_is_found_from_any_folder_in_it() {
    let tree = Tree::new(&[("deep/er/a.py", "a = 1\n")]);
    let found = Repository::find(&tree.root.join("deep/er")).unwrap().unwrap();
    assert_eq!(found.root, tree.root);
    let elsewhere = tempfile::tempdir().unwrap();
    assert!(Repository::find(elsewhere.path()).unwrap().is_none());
}

#[test]
fn revisions_that_are_not_there_are_errors_with_their_name() {
    let tree = Tree::new(&[("a.py", "a = 1\n")]);
    let repository = tree.repository();
    let nowhere = repository.commit("nowhere");
    assert!(matches!(nowhere, Err(GitError::NoRevision(name)) if name == "nowhere"));
    assert!(matches!(repository.commit("--all"), Err(GitError::NoRevision(_))));
    tree.git(&["switch", "--quiet", "--orphan",      "island"]);
    tree.git(&["commit", "--quiet", "--allow-empty", "-m", "alone"]);
    assert!(matches!(repository.merge_base("main"), Err(GitError::NoMergeBase(_))));
}

#[test]
fn what_a_commit_does_not_have_is_told_from_what_is_gone() {
    let tree = Tree::new(&[("deep/with blank.py", "a = 1\n"), ("empty.py", "")]);
    let repository = tree.repository();
    let mut blobs = repository.blobs().unwrap();
    let mut at = |path: &str| blobs.at("HEAD", Path::new(path)).unwrap();
    let blob = at("deep/with blank.py").unwrap();
    let empty = at("empty.py").unwrap();
    assert_eq!(
        (at("none.py"), at("deep"), at("deep/none.py"), at("empty.py/a")),
        Default::default()
    );
    assert_eq!(blobs.read(&blob).unwrap(), b"a = 1\n");
    assert_eq!(blobs.read(&empty).unwrap(), b"");
    let gone = repository.git_dir.join("objects").join(&blob[..2]).join(&blob[2..]);
    std::fs::remove_file(gone).unwrap();
    let mut blobs = repository.blobs().unwrap();
    assert!(matches!(blobs.read(&blob), Err(GitError::Damaged { object, .. }) if object == blob));
    assert_eq!(blobs.read_all(&[&empty]).unwrap(), [b""]);
    assert!(blobs.at("none", Path::new("a")).is_err());
}

#[test]
fn each_reach_names_its_files() {
    let tree = Tree::new(&[("a.py", "a = 1\n"), ("b.py", "b = 1\n"), ("c/d.js", "d\n")]);
    tree.write("a.py",     "a = 2\n");
    tree.write("c/new.js", "e\n");
    tree.write("b.py", "b = 2\n");
    tree.git(&["add", "b.py"]);
    assert_eq!(shown(&tree.select(&[], &Reach::Save)), ["a.py", "b.py", "c/new.js"]);
    assert_eq!(shown(&tree.select(&["c"], &Reach::Save)), ["c/new.js"]);
    assert_eq!(shown(&tree.select(&[], &Reach::Staged)), ["b.py"]);
    assert_eq!(shown(&tree.select(&[], &Reach::Whole)), ["a.py", "b.py", "c/d.js", "c/new.js"]);
    tree.git(&["switch", "--quiet", "-c", "tides"]);
    tree.git(&["commit", "--quiet", "-m", "b"]);
    let merge = Reach::Merge(Merge { into: "main".into(), canon_of: CanonOf::Target });
    assert_eq!(shown(&tree.select(&[], &merge)), ["b.py"]);
    let since = Reach::Since("main".into());
    assert_eq!(shown(&tree.select(&[], &since)), ["a.py", "b.py", "c/new.js"]);
}

#[test]
fn the_lines_in_play_are_those_that_the_base_has_not() {
    let tree = Tree::new(&[("a.py", "a = 1\nb = 1\n")]);
    tree.write("a.py", "a = 1\nb = 2\nc = 3\n");
    for paths in [&[][..], &["a.py"]] {
        let set = lines(&tree.select(paths, &Reach::Save));
        assert!(!set.touches(0..1) && set.touches(1..2) && set.touches(2..3));
    }
    tree.write("new.py", "a\n");
    assert!(lines(&tree.select(&["new.py"], &Reach::Save)).is_whole());
}

#[test]
fn what_is_staged_is_read_from_the_index_and_so_is_its_canon() {
    let tree = Tree::new(&[("a.py", "a = 1\n")]);
    tree.write("a.py", "a = 2\n");
    tree.write("kanonix.toml", "[style]\nindent_size = 3\n");
    tree.git(&["add", "--all"]);
    tree.write("a.py", "a = 3\n");
    tree.write("kanonix.toml", "no canon\n");
    let selection = tree.select(&[], &Reach::Commit);
    let item = &selection.items[0];
    assert_eq!(item.style.indent_columns(), 3);
    assert!(matches!(&item.source, Source::Staged { mode, .. } if mode == "100644"));
    let loaded = selection.load(item).unwrap();
    assert_eq!(loaded.text, "a = 2\n");
    assert!(matches!(loaded.play, InPlay::Since(bases) if bases == Bases::of(["a = 1\n"])));
}

#[test]
fn a_staged_text_replaces_the_one_in_the_index() {
    let tree = Tree::new(&[("a.py", "a = 1\n")]);
    let repository = tree.repository();
    let blob = repository.store(b"a = 2\n").unwrap();
    let staging = Staging { path: "a.py".into(), mode: "100755".into(), blob };
    repository.stage(&[staging]).unwrap();
    let mut blobs = repository.blobs().unwrap();
    let staged = repository.staged_blob(Path::new("a.py")).unwrap().unwrap();
    assert_eq!(blobs.read(&staged).unwrap(), b"a = 2\n");
    let (changes, _) = repository.staged("HEAD").unwrap();
    assert_eq!((changes.len(), changes[0].mode.as_str()), (1, "100755"));
}

#[test]
fn what_cannot_be_judged_says_why() {
    let tree = Tree::new(&[("kanonix.toml", "[files]\nskip = [\"old\"]\nlargest = 10\n")]);
    tree.write("old/a.py", "a = 1\n");
    tree.write("big.py", "a = 1234567\n");
    tree.write("notes.txt", "\n");
    let selection = tree.select(&[], &Reach::Whole);
    assert_eq!(selection.left_alone.count(Why::Skipped), 1);
    assert_eq!(selection.left_alone.count(Why::UnknownLanguage), 1);
    let big = selection.load(&selection.items[0]);
    assert!(matches!(big, Err(NotLoaded::LeftAlone(Why::TooLarge))));
    let missing = select(&tree.root, &[PathBuf::from("none.py")], &Reach::Save);
    assert!(matches!(missing, Err(WorkError::NoSuchPath(_))));
    let two = [PathBuf::from("big.py"), PathBuf::from("notes.txt")];
    let lines = select(&tree.root, &two, &Reach::Lines(vec![0..1]));
    assert!(matches!(lines, Err(WorkError::LinesOfOneFile)));
}

#[test]
fn paths_are_shown_from_the_current_folder() {
    let tree = Tree::new(&[("a.py", "a = 1\n"), ("deep/b.py", "b = 1\n")]);
    tree.write("a.py", "a = 2\n");
    tree.write("deep/b.py", "b = 2\n");
    let selection = select(&tree.root.join("deep"), &[], &Reach::Save).unwrap();
    assert_eq!(shown(&selection), ["../a.py", "b.py"]);
}
