//! Touched lines in C#, kept otherwise than the canon has it.

use crate::support::{Repo, each_touched, edited};

/// As somebody keeps it by hand.
const QUAY: &str = r#"using System;
using Saltmarsh.Tides;

namespace Saltmarsh {
#if SALT
  [Tide( 2 )]
  public class Quay: Gauge,IAlarm {
    #region Levels
    static readonly int[] Steps={1,2,
                                 3};
    int  ebb=1; // metres
    long slack;    // minutes
    #endregion
    public int Ebb { get{return ebb;} set{ebb=value;} }
    public string Name=>"quay" ;

    Quay( int ebb,
          int flood ):base( ebb )
    {
      this.ebb=ebb;
    }

    int Month(object tide) {
      if(ebb>2) { Warn( "high" ); }
      else Warn( "low" );
      for(int at=0;at<ebb;at++)
        Warn(at);
      switch(ebb) {
        case 1: Warn( ); break;
        default:
          return -1;
      }
#if QUIET
      if(ebb>2) {
#else
      if(ebb>3)   {
#endif
        Warn( );
      }
      string text=@"high
   water";
      var high=gauges
        .Where( gauge=>gauge.High )
        .Select( gauge => {
          return gauge;
        } );
      var next=new Quay{ ebb=2,
        Name="mole" };
      try { Open(); }
      catch(Storm) { }
      string kind=ebb switch{ 1=>"low",
        _=>"high" };
      Warn( "quay",
            ebb,
            flood );
      return ebb>2?1 : 2;
    }
  }
#endif
}
"#;

/// Each case by itself: what stands there, what somebody makes of it, and what becomes of that.
/// Nothing else in the file changes.
const CASES: [(&str, &str, &str); 23] = [
    ("using Saltmarsh.Tides;", "using  Saltmarsh.Tides ;", "using Saltmarsh.Tides;"),
    ("#if SALT", "#if SALT&&PEPPER", "#if SALT&&PEPPER"),
    ("  [Tide( 2 )]", "  [Tide( 2,3 )]", "  [Tide(2, 3)]"),
    (
        "  public class Quay: Gauge,IAlarm {",
        "  public class Quay: Gauge,IAlarm,ISiren {",
        "  public class Quay : Gauge, IAlarm, ISiren\n  {",
    ),
    ("    #region Levels", "    #region  The levels", "    #region  The levels"),
    ("    #endregion", "    #endregion\n    int  top;", "    #endregion\n    int top;"),
    ("    int  ebb=1; // metres", "    int  ebb=2; // metres", "    int ebb = 2; // metres"),
    ("    long slack;    // minutes", "    long slack ;    // hours", "    long slack; // hours"),
    (
        "get{return ebb;} set{ebb=value;}",
        "get{return ebb;} set{ebb=2;}",
        "get { return ebb; } set { ebb = 2; }",
    ),
    ("Name=>\"quay\" ;", "Name=>\"mole\" ;", "Name => \"mole\";"),
    (
        "          int flood ):base( ebb )",
        "          int neap ):base( ebb )",
        "          int neap) : base(ebb)",
    ),
    ("      this.ebb=ebb;", "      this.ebb=ebb+1;", "      this.ebb = ebb + 1;"),
    (
        "      this.ebb=ebb;",
        "      this.ebb=ebb;\n#if A\n  Warn( );\n#endif",
        "      this.ebb=ebb;\n#if A\n      Warn();\n#endif",
    ),
    ("        Warn(at);", "        Warn( at,1 );", "        Warn(at, 1);"),
    (
        "      for(int at=0;at<ebb;at++)",
        "      for(int at=1;at<ebb;at++)",
        "      for (int at = 1; at < ebb; at++)",
    ),
    ("          return -1;", "          return -(-1);", "          return -(-1);"),
    (
        "        Warn( );\n      }\n      string",
        "        Warn( 1 );\n      }\n      string",
        "        Warn(1);\n      }\n      string",
    ),
    ("text=@\"high\n", "text=@\"high  \n", "text = @\"high  \n"),
    (
        "      var high=gauges\n        .Where( gauge=>gauge.High )\n        .Select( gauge => {",
        "      var high=gauges\n        .Where( gauge=>gauge.Low )\n        .Select( gauge => {",
        "      var high = gauges\n        .Where(gauge => gauge.Low)\n        .Select(gauge =>\n        {",
    ),
    ("          return gauge;", "          return  gauge . Next;", "          return gauge.Next;"),
    ("            ebb,\n", "            ebb+1,\n", "            ebb + 1,\n"),
    ("            ebb,\n", "            ebb,\n      2,\n", "            ebb,\n            2,\n"),
    ("      return ebb>2?1 : 2;", "      return ebb>3?1 : 2;", "      return ebb > 3 ? 1 : 2;"),
];

#[test]
fn a_touched_line_and_no_other() {
    each_touched("Quay.cs", QUAY, &CASES);
}

#[test]
fn a_new_member_stands_beside_the_others() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let from = "    int Month(object tide) {";
    let new = "    record Level(int At){ public bool High( ){return At>2;} }\n\n";
    let mended = edited(&[canon, ("Quay.cs", QUAY)], "Quay.cs", from, &format!("{new}{from}"));
    let wanted = "    record Level(int At) { public bool High() { return At > 2; } }\n\n";
    assert_eq!(mended, QUAY.replacen(from, &format!("{wanted}{from}"), 1));
}

#[test]
fn a_list_that_is_opened_takes_its_brace_along() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let from = "      return ebb>2?1 : 2;";
    let new =
        "      var neap = new Quay { Name = \"the mole of the town\", Level = 2, Unit = \"metres\", \
               Station = \"saltmarsh\", Top = 4, Low = 1 };\n";
    let wanted =
        "      var neap = new Quay\n      {\n        Name = \"the mole of the town\",\n        Level = 2,\n        \
                  Unit = \"metres\",\n        Station = \"saltmarsh\",\n        Top = 4,\n        Low = 1\n      };\n";
    let mended = edited(&[canon, ("Quay.cs", QUAY)], "Quay.cs", from, &format!("{new}{from}"));
    assert_eq!(mended, QUAY.replacen(from, &format!("{wanted}{from}"), 1));
}

#[test]
fn a_touched_line_in_a_branch_that_cannot_be_read_is_said_and_stays() {
    let repo = Repo::with(&[("kanonix.toml", "edition = 1\n"), ("Quay.cs", QUAY)]);
    repo.edit("Quay.cs", "      if(ebb>3)   {", "      if(ebb>4)   {");
    let edited = repo.read("Quay.cs");
    let checked = repo.kanonix(&["check"]);
    let said = "Quay.cs:36:7: hidden_branch: this branch cannot be read together with the others: \
                it is not judged and stays as it is\n";
    assert_eq!((checked.status, checked.out.as_str()), (0, said));
    let report = repo.kanonix(&["check", "--report", "sarif"]).out;
    assert!(report.contains("hidden_branch") && report.contains("directive_indent"), "{report}");
    assert_eq!(repo.kanonix(&["mend"]).status, 0);
    assert_eq!(repo.read("Quay.cs"), edited);
}
