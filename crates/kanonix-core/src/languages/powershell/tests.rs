//! How the shell with verbs is laid out.

use crate::languages::testing::{lay, lay_with, touched};

mod reading;

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
fn the_comma_of_one_element_stands_as_somebody_put_it() {
    let script = "return ,$gauges\n$all = @(, @('low', 'high'))\n$one = @(,$quay)\n";
    assert_eq!(lay("powershell", script), script);
}
