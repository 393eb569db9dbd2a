LEVELS = {
  north: 1.20, # by the lock
  south: 2.45,
  'inner quay' => 0.80
}.freeze

NAMES = {
  north:   'North Quay',
  southern: 'South Quay',
  inner:   'Inner Basin'
}.freeze

HEIGHTS = [
  1, 2, 3, 4,
  5, 6, 7, 8
].freeze

WEEK = [
  ['Monday',  4.2, 0.8],
  ['Tuesday', 4.4, 0.6]
]

low     = 1 # the lowest
highest = 2 # the highest
height  = 4.25    # of the mark
mark    = 'quay'  # where it is
low     if highest
highest if low

case low
when 1     then 'ebb'
when 2, 30 then 'flood'
end

QUAYS = %w[
  north south
  inner outer
]
