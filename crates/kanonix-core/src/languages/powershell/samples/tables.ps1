using namespace System.IO

$settings = @{
    Name    = 'quay'
    Limit   = 420
    'Mole'  = Get-Level mole
    Nested  = @{ Ebb = 1; Flood = 2 }
    Actions = {
        Write-Host 'ebb'
    }
}

$quay = 1       # the one at the quay
$harbour = 200  # the one in the harbour

$options = @{
    Uri = 'https://quay.example'
    Body = $settings | ConvertTo-Json
}
$names = @(
    'quay'
    'mole'
    'lock'
)
$levels = @(
    1, 2, 3,
    4, 5, 6
)
$heights = @(
    1,   20,  300,
    400, 5,   60
)
$all = @('quay', 'mole', 'lock')
$empty = @{}
$none = @()
$sum = $(Get-Level quay; Get-Level mole)
$rows = @(
    @{ Name = 'quay'; Level = 3 },
    @{ Name = 'mole'; Level = 5 }
)
@{
    ModuleVersion     = '1.2'
    FunctionsToExport = 'Get-Level',
        'Send-Warning'
}
