using System;

int level    = 2;       // metres
string gauge = "quay";  // its name
int[,] table =
{
    { 1,  20, 300 },
    { 40, 5,  6 },
};

Warn("the gauge at the quay of saltmarsh is higher than it should be", level, gauge,
     table, Console.Out);
Warn(
    "the gauge at the quay of saltmarsh is higher than it should be",
    level);
bool low = (level < 2 && gauge.Length > 2 || level < 1 && gauge.Length > 3 || level == 3 && table[0, 1] == 20)
    && Calm();
if (level < 2
    && gauge.Length > 2)
{

    Warn("low");
}
while (
    level < 2 && level > -2 && !siren.SoundsAtNight(quay) && gauge.Length > 3)
{
    level++;
}
string text = "the gauge at the quay of saltmarsh is higher than it should be" + gauge + " and so is that one, too";
var first = level > 20, second = level > 30, third = level > 400000000000, fourth = level > 50000000000000000000000000000,
    fifth = level;
bool one = level > 20000000000000000000000000000000, two = level > 30000000000000000000000000000000, three = level > 4000000;
string other = "the gauge at the quay of saltmarsh is higher than it should be" + gauge + " and so is every other one of them";
var names = gauges
    .Where(one => one.Level > 2)
    .ToList();
var shown = rising
    ? new Level
    {
        Mark = 1,
        Height = 2,
    }
    : null;
var all = gauges.Where(one => one.Level > 2).Select(one => one.Name).OrderBy(name => name.Length).Distinct().ToArray();
Call(level > 2 && gauge.Length > 2222222222222222222222222222222 || level > 333333333333333333333 && gauge.Length > 3333333333333333333, 1);

int Twice(int a) { return a * 2; }

int Thrice(
    int a,
    int b)
{
    return a * 3;
}
// the end   
