//! Touched lines in Java, kept otherwise than the canon has it.

use crate::support::{Repo, each_touched, edited};

/// As somebody keeps it by hand.
const QUAY: &str = r#"package saltmarsh.tides;

import java.util.*;

class Quay extends Gauge
  implements Alarm
{
  static final int[] STEPS={1,2,
                            3};
  int  ebb=1; // metres
  long slack;    // minutes

  enum Side { PORT,STARBOARD }

  Quay( int ebb,
        int flood ) throws Storm
  {
    super( ebb );
    this.ebb=ebb;
  }

  @Override public int hashCode() { return 31*ebb; }

  int month(Object tide) {
    if(ebb>2) { warn( "high" ); }
    else warn( "low" );
    for(int at=0;at<ebb;at++)
      warn(at);
    switch(ebb) {
      case 1: warn( ); break;
      default:
        return -1;
    }
    String text="""
       high
         water""";
    gauges.stream()
      .filter( Gauge::isHigh )
      .forEach( gauge -> {
        warn( gauge );
      } );
    try { open(); }
    catch(Storm|Calm storm) { }
    warn( "quay",
          ebb,
          flood );
    return ebb>2?1 : 2;
  }
}
"#;

/// Each case by itself: what stands there, what somebody makes of it, and what becomes of that.
/// Nothing else in the file changes.
const CASES: [(&str, &str, &str); 23] = [
    (
        "import java.util.*;\n",
        "import java.util.*;\nimport java.io . File;\n",
        "import java.util.*;\nimport java.io.File;\n",
    ),
    ("  int  ebb=1; //", "  int  ebb=2; //", "  int ebb = 2; //"),
    ("  int  ebb=1; //", "  int ebb = 1,low=2; //", "  int ebb = 1, low = 2; //"),
    ("  long slack;    // minutes", "  long slack ;    // hours", "  long slack; // hours"),
    ("{ PORT,STARBOARD }", "{ PORT,STARBOARD,BOW }", "{ PORT, STARBOARD, BOW }"),
    (
        "        int flood ) throws Storm\n  {",
        "        int flood,int c ) throws Storm\n  {",
        "        int flood, int c) throws Storm {",
    ),
    ("    super( ebb );", "    super( ebb,2 );", "    super(ebb, 2);"),
    ("    this.ebb=ebb;", "    this.ebb=ebb+1;", "    this.ebb = ebb + 1;"),
    (
        " public int hashCode() { return 31*ebb; }",
        " public int hashCode() { return 37*ebb; }",
        "\n  public int hashCode() {\n    return 37 * ebb;\n  }",
    ),
    (
        "    if(ebb>2) { warn( \"high\" ); }\n    else warn( \"low\" );",
        "    if(ebb>2) { warn( \"high\" ); }\n    else warn( \"ebb\" );",
        "    if (ebb > 2) {\n      warn(\"high\");\n    } else warn(\"ebb\");",
    ),
    ("      warn(at);", "      warn( at,1 );", "      warn(at, 1);"),
    (
        "    for(int at=0;at<ebb;at++)",
        "    for(int at=1;at<ebb;at++)",
        "    for (int at = 1; at < ebb; at++)",
    ),
    ("        return -1;", "        return -(-1);", "        return -(-1);"),
    ("        return -1;", "    return - 2;", "        return -2;"),
    ("=\"\"\"\n       high\n", "=\"\"\"\n       high   tide\n", " = \"\"\"\n       high   tide\n"),
    (
        "      .filter( Gauge::isHigh )\n      .forEach( gauge",
        "      .filter( Gauge :: isLow )\n      .forEach( gauge",
        "      .filter(Gauge::isLow)\n      .forEach(gauge",
    ),
    ("        warn( gauge );", "        warn( gauge,1 );", "        warn(gauge, 1);"),
    (
        "    try { open(); }\n    catch(Storm|Calm storm) { }",
        "    try { open( ); shut(); }\n    catch(Storm|Calm storm) { }",
        "    try {\n      open();\n      shut();\n    } catch (Storm | Calm storm) {}",
    ),
    ("          ebb,\n", "          ebb+1,\n", "          ebb + 1,\n"),
    ("          ebb,\n", "          ebb,\n    2,\n", "          ebb,\n          2,\n"),
    ("    return ebb>2?1 : 2;", "    return ebb>3?1 : 2;", "    return ebb > 3 ? 1 : 2;"),
    (
        "  int month(Object tide) {",
        "  int month( Object tide,int at ) {",
        "  int month(Object tide, int at) {",
    ),
    (
        "class Quay extends Gauge\n  implements Alarm\n{",
        "final   class Quay extends Gauge\n  implements Alarm\n{",
        "final class Quay extends Gauge\n    implements Alarm {",
    ),
];

#[test]
fn a_touched_line_and_no_other() {
    each_touched("Quay.java", QUAY, &CASES);
}

#[test]
fn a_new_member_stands_beside_the_others() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let from = "  int month(Object tide) {";
    let new = "  record Level(int at){ boolean high( ){return at>2;} }\n\n";
    let mended = edited(
        &[canon, ("Quay.java", QUAY)],
        "Quay.java",
        from,
        &format!("{new}{from}"),
    );
    let wanted =
        "  record Level(int at) {\n    boolean high() {\n      return at > 2;\n    }\n  }\n\n";
    assert_eq!(mended, QUAY.replacen(from, &format!("{wanted}{from}"), 1));
}

/// Members by kind.
const ORDERED: &str = "edition = 1\n[style.java]\nmember_order = \"by_kind\"\n";

#[test]
fn a_new_member_goes_where_its_kind_stands_and_undo_takes_it_back() {
    let repo = Repo::with(&[("kanonix.toml", ORDERED), ("Quay.java", QUAY)]);
    let from = "  int month(Object tide) {";
    let new = "  // how far\n  private  int reach=2;\n\n  void swing( ) { }\n\n";
    repo.edit("Quay.java", from, &format!("{new}{from}"));
    let now = repo.read("Quay.java");
    let checked = repo.kanonix(&["check"]);
    assert!(checked.out.contains("member_order: put `reach` behind `slack`"), "{}", checked.out);
    repo.mend(&[]);
    let slack = "  long slack;    // minutes\n";
    let field = "\n  // how far\n  private int reach = 2;\n";
    let wanted = QUAY.replacen(slack, &format!("{slack}{field}"), 1);
    let wanted = wanted.replacen(from, &format!("  void swing() {{}}\n\n{from}"), 1);
    assert_eq!(repo.read("Quay.java"), wanted);
    assert_eq!(repo.kanonix(&["check"]).status, 0);
    assert_eq!(repo.kanonix(&["undo"]).status, 0);
    assert_eq!(repo.read("Quay.java"), now);
}

#[test]
fn an_order_of_members_has_its_price_and_only_words_that_it_knows() {
    let code = "class Quay {\n    void ebb() {\n    }\n\n    int level;\n}\n";
    let repo = Repo::with(&[("kanonix.toml", "edition = 1\n"), ("Quay.java", code)]);
    let wish = "style.java.member_order=[\"field\", \"method\"]";
    let priced = repo.kanonix(&["settle", "--price", wish]).out;
    assert!(priced.contains("1 line in 1 file  1 more"), "{priced}");
    let wrong = repo.kanonix(&["settle", "--price", "style.java.member_order=[\"feld\"]"]);
    assert!(wrong.err.contains("did you mean `field`?"), "{}", wrong.err);
}

/// Imports go that nothing mentions.
const DROPPED: &str = "edition = 1\n[style.java]\nunused_imports = \"drop\"\n";

#[test]
fn an_import_that_nothing_mentions_goes_and_it_is_said_that_nothing_proves_that() {
    let quay = format!("import tide.Level;\n\n{QUAY}");
    let repo = Repo::with(&[("kanonix.toml", DROPPED), ("Quay.java", &quay)]);
    repo.edit("Quay.java", "import tide.Level;\n", "import tide.Level;\nimport tide.Buoy;\n");
    let now = repo.read("Quay.java");
    let checked = repo.kanonix(&["check"]);
    assert!(
        checked.out.contains("unused_imports: drop this import: nothing here mentions `Buoy`"),
        "{}",
        checked.out
    );
    let tried = repo.kanonix(&["mend", "--dry-run"]);
    assert!(tried.out.contains("-import tide.Buoy;"), "{}", tried.out);
    assert!(!tried.out.contains("is not proved"), "{}", tried.out);
    assert!(tried.err.contains("Quay.java: 1 import"), "{}", tried.err);
    let typed = repo.kanonix_reads(&["mend", "--stdin", "Quay.java"], now.as_bytes());
    assert_eq!(String::from_utf8_lossy(&typed.stdout), quay);
    assert!(String::from_utf8_lossy(&typed.stderr).contains("Quay.java: 1 import"));
    let said = repo.kanonix(&["mend"]).out;
    assert!(said.contains("1 import that nothing mentions goes"), "{said}");
    assert!(said.contains("is not proved"), "{said}");
    assert_eq!(repo.read("Quay.java"), quay);
    assert_eq!(repo.kanonix(&["check"]).status, 0);
    assert_eq!(repo.kanonix(&["undo"]).status, 0);
    assert_eq!(repo.read("Quay.java"), now);
}
