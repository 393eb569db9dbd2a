#Requires -Version 5.1

<#
.SYNOPSIS
    Restarts the readers of the gauges that have been silent for too long.
.PARAMETER Silence
    So many minutes of silence are too long.
.EXAMPLE
    ./Restart-Gauges.ps1 -Silence 45 -WhatIf
#>
[CmdletBinding(SupportsShouldProcess)]
param (
    [ValidateRange(10, 1440)]
    [int] $Silence = 30,

    [string] $Office = 'https://tides.saltmarsh.example'
)

Set-StrictMode -Version Latest
$ErrorActionPreference = 'Stop'

$readers = @{
    quay        = 'reader@quay'
    mole        = 'reader@mole'
    'buoy-east' = 'relay@harbour'
}

function Get-SilentGauge {
    param ([int] $Minutes)
    $until = (Get-Date).ToUniversalTime().AddMinutes(-$Minutes)
    Invoke-RestMethod -Uri "$Office/gauges" |
        Where-Object { $_.LastReading -lt $until } |
        Sort-Object LastReading
}

function Restart-Reader([string] $Gauge) {
    if (-not $readers.ContainsKey($Gauge)) {
        Write-Warning "nobody reads the gauge at $Gauge"
        return $false
    }
    try {
        ssh $readers[$Gauge] -- systemctl restart gauge-reader
        $LASTEXITCODE -eq 0
    } catch {
        Write-Warning "no way to $($readers[$Gauge]): $_"
        $false
    }
}

$restarted = 0
foreach ($gauge in Get-SilentGauge -Minutes $Silence) {
    if ($PSCmdlet.ShouldProcess($gauge.Name, 'restart its reader') -and (Restart-Reader $gauge.Name)) {
        $restarted++
    }
}

@"
$(Get-Date -Format 's') restarted $restarted readers,
  each silent for more than $Silence minutes
"@ | Add-Content -Path restarts.log
