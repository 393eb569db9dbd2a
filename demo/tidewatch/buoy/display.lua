--- The little display on each buoy: what it shows of the water around it.
local font = require "font"
local radio = require "radio"

local display = {}

--- So many metres over the mark, and the lamp blinks.
local HIGH <const> = 1.2

local icons = {
  ebb = "\\/",
  flood = "/\\",
  slack = "--",
}

--- The tide that a change of level speaks of, in metres an hour.
local function tide(change)
  if math.abs(change) < 0.05 then return "slack" end
  return change > 0 and "flood" or "ebb"
end

--- Draws a level, in metres, and how it changes.
function display.show(screen, level, change)
  local name = tide(change)
  screen:clear()
  screen:text(2, 2, icons[name] .. " " .. name, font.small)
  screen:text(2, 12, string.format("%.2f m", level), font.large)
  if level > HIGH then
    screen:invert()
  elseif level < -HIGH then
    -- Boats may touch the ground.
    screen:text(2, 28, "shallow", font.small)
  end
end

radio.on("packet", function(packet)
  display.show(display.screen, packet.level, packet.change)
end)

return display
