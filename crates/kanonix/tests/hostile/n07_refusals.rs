//! Where a change cannot be proved, the statement there stays, and the rest is mended.

use super::Ground;

/// A grammar reads this as it pleases: whatever becomes of it, nothing is lost, and what is said is
/// no accusation.
#[test]
fn what_cannot_be_proved_is_left_alone_and_the_rest_is_done() {
    for text in ["\u{feff}  a\n func;\u{feff}\nlet  b=1\n", "a\n/* never ends", "let  b=1\n/** x\n"]
    {
        let ground = Ground::with(&[]);
        ground.repo.write("kanonix.toml", "[style]\ncharset = \"utf-8-bom\"\n");
        ground.repo.write("a.js", text);
        let said = ground.kanonix(&["mend", "--whole", "a.js"]);
        assert!(!said.err.contains("fault of Kanonix"), "{said:?}");
        let solid = |text: &str| -> String {
            text.chars().filter(char::is_ascii_graphic).collect()
        };
        assert_eq!(solid(&ground.repo.read("a.js")).replace(';', ""), solid(text).replace(';', ""));
        let once = ground.repo.read("a.js");
        ground.kanonix(&["mend", "--whole", "a.js"]);
        assert_eq!(ground.repo.read("a.js"), once);
    }
}
