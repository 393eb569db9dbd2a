#Requires -Version 5.1

<#
.SYNOPSIS
    Reads the gauges of the tide office of Saltmarsh.
.PARAMETER Name
    The gauges that are asked.
#>
[CmdletBinding(SupportsShouldProcess)]
param (
    [Parameter(Mandatory = $true, ValueFromPipeline = $true)]
    [ValidateNotNullOrEmpty()]
    [string[]] $Name,

    [ValidateRange(0, 900)]
    [int] $Limit = 420,

    [switch] $Quiet
)

Set-StrictMode -Version Latest
$ErrorActionPreference = 'Stop'

#region Levels

enum Tide {
    Ebb
    Flood = 2
    Slack
}

class Gauge {
    [string] $Name
    hidden [int] $Level = 0
    static [Gauge[]] $All = @()

    Gauge([string] $name, [int] $level) {
        $this.Name = $name
        $this.Level = $level
    }

    [bool] IsHigh([int] $limit) {
        return $this.Level -gt $limit
    }

    static [void] Forget() { [Gauge]::All = @() }
}

class Buoy : Gauge {
    [string] $Light = 'white'
}

#endregion

function Get-Level {
    param ([string] $Name, [int] $Times = 1)
    begin {
        $total = 0
    }
    process {
        for ($i = 0; $i -lt $Times; $i++) {
            $total += Read-Gauge $Name -Raw
        }
    }
    end {
        $total / $Times
    }
}

filter Select-High($Limit) { if ($_.Level -gt $Limit) { $_ } }

function Send-Warning($Gauge) {
    try {
        Invoke-RestMethod -Uri "https://quay.example/warn/$($Gauge.Name)" -Method Post |
            Out-Null
    } catch [System.Net.WebException], [System.TimeoutException] {
        Write-Warning "no answer for $($Gauge.Name)"
        throw
    } finally {
        $script:sent++
    }
}

$gauges = $Name | ForEach-Object { [Gauge]::new($_, (Get-Level $_)) } | Sort-Object Level -Descending
:harbour foreach ($gauge in $gauges) {
    switch -Regex ($gauge.Name) {
        '^quay' { continue }
        'mole|lock' {
            Send-Warning $gauge
            break
        }
        default { Write-Verbose "left out: $_" }
    }
    if (-not $Quiet -and $gauge.IsHigh($Limit)) {
        Write-Host ('{0,-12} {1:N2} m' -f $gauge.Name, ($gauge.Level / 100)) -ForegroundColor Red
    } elseif ($gauge.Level -in 1..9) {
        & $tidy @options 2>&1 > $null
    } else {
        Write-Output $gauge
    }
}

while ($true) {
    Start-Sleep -Seconds 60
    if ($stop) { break }
}
do {
    $level = Get-Level 'quay'
} until ($level -lt $Limit)

$text = @"
Levels of $(Get-Date -Format 'yyyy-MM-dd'):
  quay   $($gauges[0].Level)
"@
$raw = @'
  $not a variable
'@
git log -- $path
trap { Write-Error $_; exit 1 }
