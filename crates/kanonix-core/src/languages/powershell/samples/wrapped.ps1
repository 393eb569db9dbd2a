Invoke-WebRequest `
    -Uri 'https://quay.example/levels' `
    -OutFile levels.json

$high = Get-Gauge |
    Where-Object { $_.Level -gt 420 } |
    ForEach-Object {
        $_.Name
    }

$message = 'The gauge at ' +
    $name +
    ' is silent'

if ($level -gt 420 -and
    $wind -gt 8) {
    Send-Warning $name
}

New-Item -Path $path -Name 'levels',
    'winds' -Force

if (
    $level -gt 420 -and
    $wind -gt 8
) {
    Send-Warning $name
}

$gauge = [Gauge]::new(
    'quay',
    420
)
$value = if ($level -gt 3) {
    'high'
} else {
    'low'
}
$line = [string]::Format('{0} {1}',
    $name,
    $level)
Start-Job -ScriptBlock {
    param ($gauge)
    Get-Level $gauge
} -ArgumentList $name
