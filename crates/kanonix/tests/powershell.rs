//! Touched lines in scripts of the shell with verbs, kept otherwise than the canon has it.

use crate::support::{Repo, each_touched, edited};

/// As somebody keeps it by hand.
const SCRIPT: &str = r#"using namespace System.IO
[CmdletBinding( )]
param( [int]$Limit=3,
       [string]$Name )
$readings=@{
  quay   = 1
  'mole' = 2 ;
  far    =3 }
Function Get-Ebb( $a,$b )
{
  if($a -gt $b){ return $a }
  elseif( $a -eq 0 ) {
    Write-Host  "none"   # nothing
  }
  foreach($x in $a){
    $x|Out-Null
  }
  switch( $b ){
    1   {'one'}
    12  { 'twelve'}
    default{ 'more' }
  }
}
$high = Get-Gauge|
  Where-Object {$_.Level -gt $Limit}|
    Sort-Object Level
Send-Warning `
   -Gauge $Name   `
   -Text "high  water"
$text=@"
  as   $( it )
    stands
"@
$raw = @'
  and $this
'@
try{ Get-Ebb 1 2
}
catch{ throw }
class Buoy{
  [int]$Depth=2
  [int] Sink( [int]$by ){ return $this.Depth+$by }
}
git log  --  $Name
$sum=[Math]::Max( 1,2 )+$list[ 0 ]
"#;

/// Each case by itself: what stands there, what somebody makes of it, and what becomes of that.
/// Nothing else in the file changes.
const CASES: [(&str, &str, &str); 22] = [
    (
        "using namespace System.IO\n",
        "using namespace  System.Net\n",
        "using namespace  System.Net\n",
    ),
    (
        "[CmdletBinding( )]",
        "[CmdletBinding( PositionalBinding=$false )]",
        "[CmdletBinding(PositionalBinding=$false)]",
    ),
    ("param( [int]$Limit=3,", "param( [int]$Limit=4 ,", "param([int]$Limit=4,"),
    ("       [string]$Name )", "       [string]$Name='quay' )", "       [string]$Name='quay')"),
    ("$readings=@{", "$levels=@{", "$levels = @{"),
    ("  'mole' = 2 ;", "  'mole' = 20 ;", "  'mole' = 20;"),
    ("  far    =3 }", "  far    =30 }", "  far    = 30\n}"),
    (
        "Function Get-Ebb( $a,$b )\n{",
        "Function Get-Tide( $a,$b )\n{",
        "Function Get-Tide($a, $b) {",
    ),
    (
        "  if($a -gt $b){ return $a }\n  elseif( $a -eq 0 ) {",
        "  if($a -ge $b){ return $a }\n  elseif( $a -eq 0 ) {",
        "  if ($a -ge $b) { return $a } elseif ($a -eq 0) {",
    ),
    (
        "    Write-Host  \"none\"   # nothing",
        "    Write-Host  \"none\"   -NoNewline # nothing",
        "    Write-Host \"none\" -NoNewline # nothing",
    ),
    ("  foreach($x in $a){", "  foreach($x in $a+1){", "  foreach ($x in $a + 1) {"),
    ("    $x|Out-Null", "    $x|Out-Null;$y++", "    $x | Out-Null; $y++"),
    ("    12  { 'twelve'}", "    13  { 'thirteen'}", "    13  { 'thirteen' }"),
    (
        "$high = Get-Gauge|\n  Where-Object {$_.Level -gt $Limit}|\n    Sort-Object Level\n",
        "$high = Get-Buoy|\n  Where-Object {$_.Level -gt $Limit}|\n    Sort-Object Level\n",
        "$high = Get-Buoy |\n  Where-Object {$_.Level -gt $Limit} |\n  Sort-Object Level\n",
    ),
    (
        "Send-Warning `\n   -Gauge $Name   `\n   -Text \"high  water\"\n",
        "Send-Warning `\n   -Gauge $Name   -Quiet   `\n   -Text \"high  water\"\n",
        "Send-Warning `\n   -Gauge $Name -Quiet `\n   -Text \"high  water\"\n",
    ),
    (
        "$text=@\"\n  as   $( it )\n    stands\n",
        "$text=@\"\n  as   $( it )\n    stands  still\n",
        "$text = @\"\n  as   $( it )\n    stands  still\n",
    ),
    (
        "  and $this\n'@\n",
        "  and $this\n   more\n'@|Out-File  x\n",
        "  and $this\n   more\n'@ | Out-File x\n",
    ),
    (
        "try{ Get-Ebb 1 2\n}\ncatch{ throw }",
        "try{ Get-Ebb 1 3\n}\ncatch{ throw }",
        "try {\n  Get-Ebb 1 3\n}\ncatch{ throw }",
    ),
    ("  [int]$Depth=2", "  [int]$Depth=3", "  [int]$Depth = 3"),
    (
        "  [int] Sink( [int]$by ){ return $this.Depth+$by }",
        "  [int] Sink( [int]$by,$to ){ return $this.Depth+$by }",
        "  [int] Sink([int]$by, $to) { return $this.Depth + $by }",
    ),
    ("git log  --  $Name", "git log  -p  --  $Name", "git log -p -- $Name"),
    (
        "$sum=[Math]::Max( 1,2 )+$list[ 0 ]",
        "$sum=[Math]::Max( 1,3 )+$list[ 0 ]",
        "$sum = [Math]::Max(1, 3) + $list[0]",
    ),
];

#[test]
fn a_touched_line_and_no_other() {
    each_touched("ebb.ps1", SCRIPT, &CASES);
}

#[test]
fn what_stands_in_a_block_moves_with_it_but_for_texts() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let from = "$text=@\"\n  as   $( it )\n    stands\n\"@\n";
    let to = "if ($Name) {\n$text=@\"\n  as   $( it )\n    stands\n\"@\n}\n";
    let mended = edited(&[canon, ("ebb.ps1", SCRIPT)], "ebb.ps1", from, to);
    let wanted = "if ($Name) {\n  $text=@\"\n  as   $( it )\n    stands\n\"@\n}\n";
    assert_eq!(mended, SCRIPT.replacen(from, wanted, 1));
}

#[test]
fn what_does_not_parse_is_said_and_stays() {
    let repo = Repo::with(&[("kanonix.toml", "edition = 1\n"), ("ebb.ps1", SCRIPT)]);
    repo.edit("ebb.ps1", "$sum=[Math]", "$sum=[Math");
    let checked = repo.kanonix(&["check"]);
    assert!(checked.out.contains("does not parse"), "{}", checked.out);
    repo.kanonix(&["mend"]);
    assert!(repo.read("ebb.ps1").contains("$sum=[Math"));
}

#[test]
fn one_choice_moves_the_braces_and_what_follows_them() {
    let canon =
        "edition = 1\n[style.powershell]\nopen_brace = \"next_line\"\nelse_line = \"own_line\"\n";
    let text = "if ($high) {\n    warn\n} else {\n    look\n}\n";
    let wanted = "if ($high)\n{\n    warn\n}\nelse\n{\n    look\n}\n";
    let repo = Repo::with(&[("kanonix.toml", canon), ("ebb.ps1", text)]);
    repo.kanonix(&["mend", "--whole", "--quiet"]);
    assert_eq!(repo.read("ebb.ps1"), wanted);
}
