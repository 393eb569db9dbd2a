//! Random histories over a real git: edits, partial staging, mends, undoing and commits. After each
//! step the index, the working file and the difference between the two are what they must be.
//!
//! `KANONIX_HISTORIES=1000 cargo test --release --test histories` runs as many as one likes.

use crate::support::Repo;
use crate::support::random::Random;

const FILE: &str = "levels.py";

/// A line with a number that tells it from all others; every other one departs from the canon.
fn line(number: usize) -> String {
    if number % 2 == 0 {
        format!("level_{number} = {number}\n")
    } else {
        format!("level_{number}={number}\n")
    }
}

fn clean(text: &str) -> String {
    text.lines().map(|line| line.replace(" = ", "=").replace('=', " = ") + "\n").collect()
}

struct History {
    repo: Repo,
    random: Random,
    next: usize,
    seed: u64,
}

impl History {
    fn new(seed: u64) -> History {
        let repo = Repo::with(&[]);
        let random = Random::new(seed);
        let mut history = History { repo, random, next: 0, seed };
        let text: String = (0..12).map(|_| history.fresh()).collect();
        history.repo.write(FILE, text);
        history.repo.commit("levels");
        history
    }

    fn fresh(&mut self) -> String {
        self.next += 1;
        line(self.next)
    }

    fn index(&self) -> String {
        self.repo.git(&["cat-file", "blob", &format!(":{FILE}")])
    }

    fn head(&self) -> String {
        self.repo.git(&["cat-file", "blob", &format!("HEAD:{FILE}")])
    }

    /// Changes, adds or removes some lines of a text.
    fn edited(&mut self, text: &str) -> String {
        let mut lines: Vec<String> = text.split_inclusive('\n').map(str::to_string).collect();
        for _ in 0..1 + self.random.below(3) {
            let at = self.random.below(lines.len());
            let fresh = self.fresh();
            match self.random.below(3) {
                0 if lines.len() > 4 => drop(lines.remove(at)),
                1 => lines.insert(at, fresh),
                _ => lines[at] = fresh,
            }
        }
        lines.concat()
    }

    fn step(&mut self) {
        match self.random.below(6) {
            0 | 1 => {
                let text = self.repo.read(FILE);
                let text = self.edited(&text);
                self.repo.write(FILE, text);
            }
            2 => drop(self.repo.git(&["add", FILE])),
            3 => {
                // Some of the file is staged: the index gets a text of its own.
                let text = self.index();
                let text = self.edited(&text);
                self.repo.write("part", &text);
                let blob = self.repo.git(&["hash-object", "-w", "part"]);
                std::fs::remove_file(self.repo.path("part")).unwrap();
                let entry = format!("100644,{},{FILE}", blob.trim());
                self.repo.git(&["update-index", "--cacheinfo", &entry]);
            }
            4 => self.mend(),
            _ => {
                self.mend();
                let said = self.repo.try_git(&["commit", "-m", "levels", "--allow-empty"]);
                assert_eq!(said.status, 0, "seed {}: {said:?}", self.seed);
            }
        }
    }

    fn mend(&mut self) {
        let (head, index, file) = (self.head(), self.index(), self.repo.read(FILE));
        let said = self.repo.kanonix(&["mend", "--staged"]);
        assert_eq!(said.status, 0, "seed {}: {said:?}", self.seed);
        let (new_index, new_file) = (self.index(), self.repo.read(FILE));
        let old: Vec<&str> = head.lines().collect();
        for (before, after) in index.lines().zip(new_index.lines()) {
            // Each line of these files is unlike any other: it is touched, or stands in HEAD.
            let kept = old.contains(&before);
            let wanted = if kept { before.to_string() } else { clean(before).trim_end().into() };
            assert_eq!(after, wanted, "seed {}", self.seed);
        }
        assert_eq!(index.lines().count(), new_index.lines().count());
        // The working file has the same lines, those of the index that were mended in both.
        assert_eq!(clean(&file), clean(&new_file), "seed {}", self.seed);
        let staged: Vec<&str> = index.lines().collect();
        for (before, after) in file.lines().zip(new_file.lines()) {
            if !staged.contains(&before) || old.contains(&before) {
                assert_eq!(before, after, "seed {}: an unstaged or old line", self.seed);
            } else {
                assert!(after == before || after == clean(before).trim_end());
            }
        }
        assert_eq!(self.repo.kanonix(&["check", "--staged"]).status, 0, "seed {}", self.seed);
        if self.random.below(3) == 0 && (index != new_index || file != new_file) {
            assert_eq!(self.repo.kanonix(&["undo"]).status, 0, "seed {}", self.seed);
            assert_eq!((self.index(), self.repo.read(FILE)), (index, file), "seed {}", self.seed);
            self.repo.kanonix(&["mend", "--staged"]);
        }
    }
}

#[test]
fn whatever_is_staged_and_edited_nothing_is_lost() {
    let count = std::env::var("KANONIX_HISTORIES").ok().and_then(|text| text.parse().ok());
    for seed in 0..count.unwrap_or(12) {
        let mut history = History::new(seed + 1);
        for _ in 0..10 {
            history.step();
        }
        history.repo.git(&["fsck", "--strict"]);
    }
}
