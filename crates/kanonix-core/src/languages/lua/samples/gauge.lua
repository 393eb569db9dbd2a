#!/usr/bin/env lua
--- What a gauge says, and what is done about it.
-- @module gauge

local socket = require "socket"
local tides = require("saltmarsh.tides")

local HIGH <const>, log <close> = 5.1, open("gauge.log")
local Gauge = {}
Gauge.__index = Gauge

--[[ A gauge stands in the water
     all day long. ]]
function Gauge.new(name, options)
  local self = setmetatable({}, Gauge)
  self.name, self.levels = name or "quay", {}
  self.unit = options and options.unit or [[metres]]
  return self
end

function Gauge:read(...)
  local level, err = self:measure(...)
  if not level then return nil, err end
  if level > HIGH then
    self:warn(level)
  elseif level < -HIGH and not self.quiet then
    -- nobody swims at night
    self:warn(-level)
  else
    self.last = level
  end
  return level, level ^ 2, #self.levels, ~level & 0xff, level // 2
end

local function each(levels) return next, levels, nil end

for at = 1, #arg, 2 do print(arg[at] .. ": " .. (arg[at + 1] or "")) end

for name, level in pairs(levels) do
  if level == 0 then goto continue end
  total = total + level
  ::continue::
end

repeat
  local line = io.read()
  local done = line == "end"
until done or not line

while true do
  if not tides.next() then break end
end

socket.listen("quay", function(event)
  Gauge.current:read(event.level)
end)

local chain = Gauge.new("mole"):read():gsub("a", "b")
local text = "ebb " .. 1 .. " flood " .. HIGH .. " slack"
do local a = 1; print(a) end
return Gauge
