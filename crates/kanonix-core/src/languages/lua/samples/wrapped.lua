local quay = require "quay"
local siren = require("siren")
local high = 3.2
local low = 1      -- metres
local slack = 2    -- hours
local late = quay.level > high or
  siren.quiet
local early = quay.level < low
  and slack > 2
warn(level,
     high, low)
look(
  "the mole of the town", { level = 2, unit = "metres" }, siren.sound)
local function far(springTide,
                   neapTide)
  local sum = (springTide +
    neapTide)

  return sum

end
function near(
    level,
    at)
  return level
end
   
local named = gauges:filter(function(gauge) return gauge.level > high end):map(level):sort(by_name)
local text = "the water stands at " .. quay.level .. " metres, which is " .. (quay.level - high) .. " over the mark"
warn("a title that is long enough to make the line too long", springTide, neapTide, quay.level, high)
local all = warn(springTide + surgeAtNight + neapTide * quay.level - slackWater / 2 + quay.level, low)
local rows = {
  {1,  20, 300},
  {10, 2,  30},
}
if (quay.level > high or quay.level < low) and (siren.works or siren.quiet) and not slackWater(quay) then
  warn(late)
end
local both = (
  quay.level or siren.levelAtNightInTheWinterMonths or low)
local sums = {springTideAtTheOldQuayOfTheTown + surgeAtNightInTheWinterMonths + neapTideAtTheMoleOfTheTown + quay.level, low}
if siren then
function wail()
siren:sound()
end
end
