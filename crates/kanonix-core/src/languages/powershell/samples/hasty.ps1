#who wrote this
using namespace System.IO
Param([int]$Level=3,[string] $name)
If($Level -GT 3 -and(Test-Path $name)){Write-Host  "high" -Foreground   red
}
Else{ Write-Host "low" }
function Get-Sum($a,$b)
{

return $a+$b*2   

}
Function Get-Nothing {  }
$table=@{a=1;b = 2
c=3}
$short = @{ a=1;b=2 }
foreach($x in 1 .. 3){ $x;$x*2 }
$x=[int]"3"; $y =( 4+5 )
Get-ChildItem -Path $name -Recurse|Where-Object {$_.Length -gt 10}|Select-Object Name,Length
switch($Level){
1{"one"}
default{ "more" }
}
try{ Get-Item $name }
catch{ throw }
do{$Level--}while($Level -gt 0)
[Math]::Max( 1,2 )
$list=@( 1,2,3 )
$first =$list[ 0 ]
class Quay{
[int]$Depth=2
[int] Depth ( ){return $this.Depth}
}
enum Wind{North;South}
$message = "The gauge at the quay has not answered for " + $Level + " minutes, so that somebody has to row out and look"
if ($message -like '*gauge*' -and $Level -gt 3 -and $name -ne 'quay' -or $name -eq 'mole' -or $name -eq 'lock') { exit }
Send-Warning -Gauge $name | Where-Object { $_.Level -gt 100 } | Sort-Object Level | Select-Object -First 3 | Out-File warnings.txt
[Gauge]::Register('the gauge at the quay of Saltmarsh', 'the gauge at the mole of Saltmarsh, which ' + $where + ' reads, and some more words that do not fit on the line', 'lock')
