//! What the grammar stumbles over, and the shell has.

use crate::languages::testing::{faults, lay, touched};

#[test]
fn what_the_grammar_cannot_read_stays() {
    let text = "a  b\n$tide  ??=  1\n$x=1\n";
    assert!(!faults("powershell", text).is_empty());
    insta::assert_snapshot!(touched("powershell", "", text), @"
    a b
    $tide  ??=  1
    $x = 1
    ");
}

#[test]
fn what_a_script_asks_for_may_stand_behind_what_it_brings_in() {
    let head = "\u{feff}<#\n.SYNOPSIS\n  a\n#>\nusing module B\n\n# c\nusing namespace D\n";
    let mended = lay("powershell", &format!("{head}param( $e )\n$f=1\n"));
    assert_eq!(mended, format!("{head}param($e)\n$f = 1\n"));
}

/// What the grammar stumbles over, and the language has.
#[test]
fn words_that_are_no_names() {
    let text = "\
$a=$PSScriptRoot
Copy-Item  $root\\cmd\\$name.exe   ${env:TIDE}\\a -To $b/gauges/*.txt
Tide.Gauges\\Get-Level  -At $b,$c
function f {
[OutputType([Tide.Gauges.Buoy,  Tide.Gauges])]
param($x)
}
$x.ForEach({$_.level*2MB}) |Out-Null
$y=$x.log.\"#text\".End
";
    assert!(faults("powershell", text).is_empty());
    insta::assert_snapshot!(lay("powershell", text), @r##"
    $a = $PSScriptRoot
    Copy-Item $root\cmd\$name.exe ${env:TIDE}\a -To $b/gauges/*.txt
    Tide.Gauges\Get-Level -At $b,$c

    function f {
        [OutputType([Tide.Gauges.Buoy,  Tide.Gauges])]
        param($x)
    }

    $x.ForEach({$_.level * 2MB}) | Out-Null
    $y = $x.log."#text".End
    "##);
    // What is divided is none.
    assert!(faults("powershell", "$a = $b/2 + $c/$d\n").is_empty());
}

/// A script without a statement is one, too.
#[test]
fn comments_alone_are_a_script() {
    for text in ["", "\n", "# Tide.\n", "#requires -version 5\n<#\n.SYNOPSIS\n    Tide\n#>\n"] {
        assert_eq!(lay("powershell", text), text);
    }
    assert_eq!(lay("powershell", "  # Ebb.  \n\n    # Flood."), "# Ebb.\n\n# Flood.\n");
    assert_eq!(lay("powershell", "    \n"), "\n");
}

/// A path goes on with what a script asks for, and a function may give back several types.
#[test]
fn paths_and_types_given_back_are_read() {
    let text = "\
Copy-Item  -Path $Root\\inc\\$(Split-Path $_ (Get-It \"x\"))\\z  -Force
Copy-Item  ${env:DIR}\\  $Root\\
$a=  '$b\\$(' + ')'
function Get-It {
[OutputType([bool],ParameterSetName='a')]
[OutputType([bool],  [Tide.Gauge])]
[OutputType([int[]])]
param()
}
";
    insta::assert_snapshot!(lay("powershell", text), @r#"
    Copy-Item -Path $Root\inc\$(Split-Path $_ (Get-It "x"))\z -Force
    Copy-Item ${env:DIR}\ $Root\
    $a = '$b\$(' + ')'

    function Get-It {
        [OutputType([bool], ParameterSetName='a')]
        [OutputType([bool], [Tide.Gauge])]
        [OutputType([int[]])]
        param()
    }
    "#);
}

/// What the language has, and the grammar stumbles over.
#[test]
fn types_operators_and_labels_are_read() {
    let text = "\
$tides = [System.Collections.Generic.List`1[Tide.Gauge]]@()
[Tide.Quay+Gauge]::Read('mole')
$read = [Func[[Object], [Char]]] { 1 }
if ($quay -cin $quays -or $quay -cnotin $moles) { break harbour }
./quay read

[DscResource()]
class Gauge {
    [int] $Level
}
";
    assert!(faults("powershell", text).is_empty());
    assert_eq!(lay("powershell", text), text);
    let hurried = text.replace(" = ", "=")
        .replace(" -cin ", "  -cin ")
        .replace("    [int]", "  [int]");
    assert_eq!(lay("powershell", &hurried), text);
    // What is no type, no label and no path stays what it is.
    assert!(faults("powershell", "$a[$b+1]; $c = 1 + 2; break\n").is_empty());
}

/// What only newer shells have is laid out as other operators are; a filter of a pipeline is none of it.
#[test]
fn choices_of_newer_shells_are_read() {
    let text = "$a = $b ?? $c\n$d = $e ? 1 : 2\n$f = ($g -eq 1) ? 'ebb' : $h ? 'low' : (Get-Tide)\n\
                $i = $j | ? { $_.Low } | % { $_ }\n$k = @{ l = $m ? 1 : 2 }\n\
                Write-Host \"is it high ? yes : no\"\n";
    assert!(faults("powershell", text).is_empty());
    assert_eq!(lay("powershell", text), text);
    assert_eq!(lay("powershell", &text.replace(" = ", "=")), text);
}

/// What an object of the class before is made of stays as it stands, and what is around it is read.
#[test]
fn the_call_of_a_base_stays_as_it_stands() {
    let class = "\
class Gauge : Station {
    Gauge([int]$level) : base($level) {
        $this.Level = $level
    }

    Gauge() : base() {}

    Gauge([string]$name) : base($name, (Get-Tide $name)) {
        $this.Name = $name
    }
}
";
    assert!(faults("powershell", class).is_empty());
    assert_eq!(lay("powershell", class), class);
    // In a comment it is a part of that, whose end stands where it stood.
    let help = "<#\nGauge() : base()\nmore of it\n#>\n\n";
    let text = format!("{help}{class}");
    assert!(faults("powershell", &text).is_empty());
    assert_eq!(lay("powershell", &text), text);
    let hasty = class.replace("$this.Level = $level", "$this.Level=$level");
    assert_eq!(lay("powershell", &hasty), class);
}

/// A type with a comma behind it is one of several values, and nothing is turned into it.
#[test]
fn types_may_be_listed() {
    let text = "\
$types = @([string], [Tide.Gauge[]], $level, 1)
$type = [string], [int]
$rows = @(
    [string],
    [Dictionary[string, [int]]],
    $level
)
$gauge = New-Object Gauge -ArgumentList ($name, [string], $levels)
$level = ([int]$ebb, [string], [int]$flood)
try {
    Read-Gauge
} catch [Ebb], [Tide.Flood], [Slack] {
    Write-Log
}
";
    assert_eq!(lay("powershell", text), text);
    assert!(faults("powershell", text).is_empty());
    let tight = text.replace(", [", ",[").replace(", $", ",$").replace(", 1", ",1");
    let caught = tight.replace("[Ebb],[Tide.Flood],[Slack]", "[Ebb], [Tide.Flood], [Slack]");
    let inner = caught.replace("string,[int]", "string, [int]");
    assert_eq!(lay("powershell", &inner), text);
}

/// A block that is given to a member, a path with a variable in an argument, a name with two scopes.
#[test]
fn what_stands_in_arguments_is_read() {
    let script = "\
if ($line[0..$cursor].Where{$_ -eq $quote}.Count % 2 -eq 1) { 1 }
$low = $gauges.Where{ $_.Level -lt 2 }.Count
Move-Item $Path/$name/* $Path
New-NetRoute -Prefix ${Quay}/32 | Out-Null
New-NetRoute `
    -Prefix ${Quay}/32
Invoke-Command -ScriptBlock { $using:env:QUAY }
$mean = $sum / $count
Write-Output ($sum / $count)
";
    assert!(faults("powershell", script).is_empty());
    assert_eq!(lay("powershell", script), script);
    assert_eq!(lay("powershell", "$mean = $sum/$count\n"), "$mean = $sum / $count\n");
    assert_eq!(lay("powershell", "Write-Output ($a/$b)\n"), "Write-Output ($a / $b)\n");
}

/// The grammar ends a statement that is a value with the line of its first block.
#[test]
fn a_statement_that_is_a_value_goes_on_below() {
    insta::assert_snapshot!(lay("powershell", "\
$tide = if ($low)
{
    'ebb'
}
elseif ($high)
{
    'flood'
}
else
{
    'slack'
}
$level = try { 1 }
catch { 2 }
"), @"
    $tide = if ($low) {
        'ebb'
    } elseif ($high) {
        'flood'
    } else {
        'slack'
    }
    $level = try { 1 } catch { 2 }
    ");
    // A comment ends with its line.
    let script = "if ($low) { 1 } # }\nelse { 2 }\n";
    assert_eq!(lay("powershell", script), script);
}

#[test]
fn what_a_case_is_in_double_quotes_is_read() {
    let script = "\
switch -Regex ($tide) {
    \"low tide\" { 'ebb' }
    \"^\\[(.+)\\]\" {
        $tide = $matches[1]
    }
    \"a `\"high`\" one; {2}\" { 'flood' }
}
$null = [Tide.Gauges.Buoy, Tide.Gauges, ContentType = WindowsRuntime]
[Tide.Gauges, Tide, Version=4.0.0.0, Culture=neutral, PublicKeyToken=b77a5c561934e089]::new()
";
    assert!(faults("powershell", script).is_empty());
    assert_eq!(lay("powershell", script), script);
}

/// A word of a command's goes on behind a variable with whatever is no blank.
#[test]
fn words_go_on_behind_variables() {
    let script = "\
& $copy -batch $user@$quay mkdir $tides
& $copy -batch $user@quay chmod g-x,o+r $tides*
Get-Item $tides*, $quay\\*
ssh $user@$quay
$level = $ebb*$flood
$all = @($ebb, $flood)
";
    let wanted = script.replace("$ebb*$flood", "$ebb * $flood");
    assert!(faults("powershell", script).is_empty());
    assert_eq!(lay("powershell", &script.replace("batch ", "batch   ")), wanted);
}

/// A text, a value and what is asked for may be put together to one word.
#[test]
fn words_are_put_together_of_texts_and_values() {
    let script = r#"
Write-Host "Loading "$gauge".tar" now
Write-Host "Level: "$level
Write-Host $gauge".tar" 'ebb'$tide
Write-Host "Quay"$("tide/" + $quay + ":latest")" is there"
Write-Host $ebb -> $flood
Start-Process tide -ArgumentList gauge, --quay,
    --low $level
$level = "a" + $ebb + "c"
"#;
    let script = script.trim_start();
    assert!(faults("powershell", script).is_empty());
    let typed = script.replace("Host ", "Host   ").replace(" + ", "+");
    // What is in one word stays.
    let wanted = script.replace("tide/\" + $quay + ", "tide/\"+$quay+");
    assert_eq!(lay("powershell", &typed), wanted);
}

/// The blank line ends the command, and so does the block.
#[test]
fn a_back_tick_may_join_nothing() {
    insta::assert_snapshot!(lay("powershell", "\
if ($low) {
  throw   'ebb' `
}
if ($high) {
  Get-Tide   -Quay 1 `

  Get-Gauge   -Quay 2
}
"), @"
    if ($low) {
        throw 'ebb' `
    }
    if ($high) {
        Get-Tide -Quay 1 `

      Get-Gauge -Quay 2
    }
    ");
}
