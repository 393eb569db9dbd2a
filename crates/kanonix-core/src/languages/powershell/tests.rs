//! How the shell with verbs is laid out.

use crate::languages::testing::{faults, lay, lay_with, touched};

#[test]
fn statements_are_laid_out() {
    insta::assert_snapshot!(lay("powershell", "\
if($a){b}
elseif ( $c ){ d
}
ELSE {
e }
switch -Regex   -CaseSensitive($x){
'a'{ b;break }
default{
c
}
}
switch -File  $path { 'a' { b } }
foreach($i in  $list){ $i }
foreach -Parallel ($i in $list) { $i }
for($i=0;$i -lt 3;$i++){ $i }
for(;;){ break }
while($true){ a }
do{ a }while($b)
do {
a
}
until($b)
try{ a }
catch [A],[B.C]{ b }
catch{ c }
finally{ d }
trap [A]{ continue }
:far while($a){ continue  }
return  $a ,$b
throw
exit  1
$y=if($a){1}else{2}
a  &
"), @"
    if ($a) {b} elseif ($c) {
        d
    } ELSE {
        e
    }
    switch -Regex -CaseSensitive ($x) {
        'a' { b; break }
        default {
            c
        }
    }
    switch -File $path {
        'a' { b }
    }
    foreach ($i in $list) { $i }
    foreach -Parallel ($i in $list) { $i }
    for ($i = 0; $i -lt 3; $i++) { $i }
    for (;;) { break }
    while ($true) { a }
    do { a } while ($b)
    do {
        a
    } until ($b)
    try { a } catch [A], [B.C] { b } catch { c } finally { d }
    trap [A] { continue }
    :far while ($a) { continue }
    return $a, $b
    throw
    exit 1
    $y = if ($a) {1} else {2}
    a &
    ");
}

#[test]
fn declarations_are_laid_out() {
    insta::assert_snapshot!(lay("powershell", "\
[CmdletBinding( DefaultParameterSetName='a' )]
param([Parameter( Mandatory=$true,Position = 0 )][string]$a,
[int]$b=3 ,
$c)
function a{ b }
function b($x,[int]$y=2){
$x
}
filter c { $_ }
function d {
param( $x )
begin{ a }
process{
b
}
end{ c }
}
class A:B,C{
[int]$x=1
hidden [string] $y
static [A]$z
A(){ }
[void]b([int]$x,$y){
$this.x=$x
}
static [int] c(){return 1}
}
enum D{ a;b=2
c }
data E -SupportedCommand f { 'g' }
"), @"
    [CmdletBinding(DefaultParameterSetName='a')]
    param([Parameter(Mandatory=$true, Position = 0)][string]$a,
        [int]$b=3,
        $c)
    function a { b }

    function b($x, [int]$y=2) {
        $x
    }

    filter c { $_ }

    function d {
        param($x)
        begin { a }
        process {
            b
        }
        end { c }
    }

    class A : B, C {
        [int]$x = 1
        hidden [string] $y
        static [A]$z
        A() { }

        [void]b([int]$x, $y) {
            $this.x = $x
        }

        static [int] c() {return 1}
    }

    enum D {
        a; b = 2
        c
    }

    data E -SupportedCommand f { 'g' }
    ");
}

#[test]
fn expressions_are_laid_out() {
    insta::assert_snapshot!(lay("powershell", "\
$a=1+2*3/4%5
$a+=- 1
$a -AND $b  -or -not $c -xor ! $d
$a -eq 1 -band 3
'{0} {1}'-f $a,$b
$a=1 , 2,3
$a= , 1
[int] $b
[int]$b=[string]( $c )
$a.b.c( 1,2 ).d
[A.B]::c( $x )::d
$a[ 0 ]
$a++; ++$b
$a=@( 1,2 )
$a=@( 'b';'c' )
$a = @(
'b'
  'c'
)
$a = $( b;c )
$a=@{ }
$a=@{b=1}
$a = @{ b=1;c = 2 }
$a = @{ b=1
c=2 }
{ param( $x ) $x*2 }
{}
$a.foreach{ $_ }
1 .. 3
"), @"
    $a = 1 + 2 * 3 / 4 % 5
    $a += -1
    $a -AND $b -or -not $c -xor !$d
    $a -eq 1 -band 3
    '{0} {1}' -f $a, $b
    $a = 1, 2, 3
    $a = , 1
    [int] $b
    [int]$b = [string]($c)
    $a.b.c(1, 2).d
    [A.B]::c($x)::d
    $a[0]
    $a++; ++$b
    $a = @(1, 2)
    $a = @('b'; 'c')
    $a = @(
        'b'
        'c'
    )
    $a = $(b; c)
    $a = @{ }
    $a = @{b = 1}
    $a = @{ b = 1; c = 2 }
    $a = @{
        b = 1
        c = 2
    }
    { param($x) $x * 2 }
    {}
    $a.foreach{ $_ }
    1 .. 3
    ");
}

#[test]
fn commands_keep_what_touches() {
    insta::assert_snapshot!(lay("powershell", "\
Get-Item  -Path:$x   foo,bar , 'a'   $y[0] $y [0] (b  c) { d } {e}
a -b: $c --flag=x -- $d
git log  --%  a   b
&$a   $b
.  ./c.ps1
a|b |c
a   2>&1  >$null
a > b.txt
a@b
a $x.y .z
a -b 1,
2
"), @"
    Get-Item -Path:$x foo,bar , 'a' $y[0] $y [0] (b c) { d } {e}
    a -b: $c --flag=x -- $d
    git log --%  a   b
    &$a $b
    . ./c.ps1
    a | b | c
    a 2>&1 >$null
    a > b.txt
    a@b
    a $x.y .z
    a -b 1,
        2
    ");
}

#[test]
fn what_is_too_long_is_broken_behind_bars_and_operators_first() {
    let narrow = &[("max_line_length", "", "40")];
    insta::assert_snapshot!(lay_with("powershell", narrow, "\
Get-Gauge quay | Where-Object { $_.Level -gt 3 } | Sort-Object Level
$high = $level -gt 420 -and $wind -gt 8 -and $moon
$text = 'the gauge at the quay' + $name + ' is silent'
Send-Warning -Gauge quay -Text ('the gauge at' + $name)
[Gauge]::Read('quay', 'mole', 'the harbour', 'lock')
$all = @{ Name = 'quay'; Level = 420; Wind = 8 }
Send-Warning -Options @{ Name = 'quay'; Level = 420 }
if ($level -gt 420 -and $wind -gt 8 -or $moon) { warn }
"), @"
    Get-Gauge quay |
        Where-Object { $_.Level -gt 3 } |
        Sort-Object Level
    $high = $level -gt 420 -and
        $wind -gt 8 -and
        $moon
    $text = 'the gauge at the quay' +
        $name + ' is silent'
    Send-Warning -Gauge quay -Text (
        'the gauge at' + $name
    )
    [Gauge]::Read(
        'quay',
        'mole',
        'the harbour',
        'lock'
    )
    $all = @{
        Name = 'quay'
        Level = 420
        Wind = 8
    }
    Send-Warning -Options @{
        Name = 'quay'
        Level = 420
    }
    if (
        $level -gt 420 -and
        $wind -gt 8 -or
        $moon
    ) {
        warn
    }
    ");
}

#[test]
fn here_strings_and_joins_stay_to_the_byte() {
    insta::assert_snapshot!(lay("powershell", "\
if ($a) {
$text=@\"
  a   $( b )
    c
\"@
  $raw = @'
x   
'@ | Out-File  y
Send  `
      -To $a   `
  -From  $b
}
"), @r#"
    if ($a) {
        $text = @"
      a   $( b )
        c
    "@
        $raw = @'
    x   
    '@ | Out-File y
        Send `
              -To $a `
          -From $b
    }
    "#);
}

#[test]
fn what_somebody_lined_up_stays() {
    insta::assert_snapshot!(lay("powershell", "\
$a = @{
    Name   = 'quay'
    Level  = 3
}
switch ($x) {
    'a'     { 1 }
    'bcd'   { 2 }
    default { 3 }
}
$quay = 1      # one
$harbour = 2   # two
[int]$level -gt 3 -and (
    $a
)
"), @"
    $a = @{
        Name   = 'quay'
        Level  = 3
    }
    switch ($x) {
        'a'     { 1 }
        'bcd'   { 2 }
        default { 3 }
    }
    $quay = 1      # one
    $harbour = 2   # two
    [int]$level -gt 3 -and ($a)
    ");
}

#[test]
fn comments_stay_where_they_are() {
    insta::assert_snapshot!(lay("powershell", "\
#!/usr/bin/env pwsh
#Requires -Version 5
function a {
<#
.SYNOPSIS
  b
#>
  param (
    # one
      $x, # two
      # three
    $y
  )
    a <# b #> c
if ($a) { # why
b
} # c
# before
else {
}
$h = @{ # d
a = 1 # e
# f
}
}
"), @"
    #!/usr/bin/env pwsh
    #Requires -Version 5
    function a {
        <#
        .SYNOPSIS
          b
        #>
        param (
            # one
            $x, # two
            # three
            $y
        )
        a <# b #> c
        if ($a) { # why
            b
        } # c
        # before
        else {
        }
        $h = @{ # d
            a = 1 # e
            # f
        }
    }
    ");
}

#[test]
fn braces_stand_where_the_canon_has_them() {
    let canon = &[("open_brace", "", "next_line"), ("else_line", "", "own_line")];
    insta::assert_snapshot!(lay_with("powershell", canon, "\
function a {
    b
}
if ($a) {
    b
} else {
    c
}
$x | ForEach-Object {
    $_
}
switch ($a) {
    1 {
        b
    }
}
$x = if ($a) { 1 } else { 2 }
"), @"
    function a
    {
        b
    }

    if ($a)
    {
        b
    }
    else
    {
        c
    }
    $x | ForEach-Object {
        $_
    }
    switch ($a)
    {
        1
        {
            b
        }
    }
    $x = if ($a) { 1 } else { 2 }
    ");
}

#[test]
fn words_are_in_lower_case_where_the_canon_has_it() {
    let canon = &[("letter_case", "keyword", "lower")];
    insta::assert_snapshot!(lay_with("powershell", canon, "\
Function A { Param ($X); If ($X -EQ 3 -And -Not $Y) { Return $X } ElseIf ($Z) { Throw } }
Get-Item -Path X
ForEach ($A In $B) { Switch ($A) { Default { Break } } }
"), @"
    function A { param ($X); if ($X -eq 3 -and -not $Y) { return $X } elseif ($Z) { throw } }
    Get-Item -Path X
    foreach ($A in $B) {
        switch ($A) {
            default { break }
        }
    }
    ");
}

#[test]
fn one_touched_line_and_no_other() {
    let base = "$a=@{\nb   = 1\nccc=2\n}\nif($x){\nd  e\n}\n";
    let text = base.replace("ccc=2", "ccc=3");
    insta::assert_snapshot!(touched("powershell", base, &text), @"
    $a=@{
    b   = 1
    ccc = 3
    }
    if($x){
    d  e
    }
    ");
}

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

/// What is kept inside brackets is the same on both sides; but two that close stand together where somebody
/// put them so.
#[test]
fn brackets_that_close_together_may_stay_together() {
    let style = [("inner_gap", "parens", "keep")];
    let text = "\
if ( $Level -and ( -not $IsEbb )) { Get-Ebb }
if ($Level -gt 1 ) { Get-Ebb }
if ( $Level -gt 1) { Get-Ebb }
";
    insta::assert_snapshot!(lay_with("powershell", &style, text), @"
    if ( $Level -and ( -not $IsEbb )) { Get-Ebb }
    if ($Level -gt 1) { Get-Ebb }
    if ( $Level -gt 1 ) { Get-Ebb }
    ");
}

/// One tab further in is one step, however wide the canon's is.
#[test]
fn a_tab_is_a_step() {
    let text = "function Get-It {\n\tparam (\n\t\t[string]$Gauge\n\t)\n\tGet-Ebb\n}\n";
    let wanted = text.replace('\t', "  ");
    assert_eq!(lay_with("powershell", &[("indent_size", "", "2")], text), wanted);
}

/// The grammar reads what stands behind `param (…)` in one way on its line, and in another below it.
#[test]
fn a_script_block_with_parameters_opens_where_it_does_not_fit() {
    let long = "$compare = { param($actual, $expected) @(Compare-Object -ReferenceObject $actual -DifferenceObject $expected).Length }\n";
    let open = "$compare = {\n    param($actual, $expected)\n    @(Compare-Object -ReferenceObject $actual -DifferenceObject $expected).Length\n}\n";
    assert_eq!(lay("powershell", long), open);
    let short = "$first = { param($tide) @(Get-Tide $tide).Count }\n";
    assert_eq!(lay("powershell", short), short);
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

#[test]
fn a_comment_alone_in_a_block_may_stay_on_its_line() {
    let text = "function Read-Gauge { <# nothing #> }\n\n$a = { <# nothing #> }\n";
    assert_eq!(lay("powershell", text), text);
}

#[test]
fn a_statements_end_goes_where_the_brace_behind_it_gets_a_line() {
    let text = "if ($a) {\n    Ebb\n    Flood; }\n";
    assert_eq!(lay("powershell", text), "if ($a) {\n    Ebb\n    Flood\n}\n");
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
fn the_lines_of_an_argument_may_count_from_its_command() {
    let script = "\
Set-KeyHandler -Key Up `
               -Description \"flood\" `
               -ScriptBlock {
    param($key)
    $level = $level + 1
}

Set-KeyHandler -Key Down `
               -ScriptBlock {
                   $level = $level - 1
               }

Set-Gauge -Name quay `
          -Options @{
    Low  = 1
    High = 5
}
";
    assert_eq!(lay("powershell", script), script);
    let deep = script.replace("    param($key)\n", "      param( $key )\n");
    assert_eq!(lay("powershell", &deep), script);
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

#[test]
fn the_comma_of_one_element_stands_as_somebody_put_it() {
    let script = "return ,$gauges\n$all = @(, @('low', 'high'))\n$one = @(,$quay)\n";
    assert_eq!(lay("powershell", script), script);
}
