return {
  gauges = {
    { name = "quay", level = 2.1, },
    { name = "mole", level = 3.4, }
  },
  heights = {
    1, 2, 3,
    4, 5, 6,
  },
  slack =
  {
    ebb = 1,
  },
  near   = 1,
  far    = 22,
  ["all"] = true; -- every one
  on_rise = function(level)
    return level > 2
  end,
}
