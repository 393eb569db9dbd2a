using System.Linq;

namespace Saltmarsh.Alarms;

class Siren : IDisposable
{
    private readonly Dictionary<string, int> levels = new()
    {
        ["quay"] = 2,
        ["mole"] = 3,
    };

    public async Task<string> Sound(Gauge gauge, CancellationToken stop = default)
    {
        await using var log = await Open("siren", stop).ConfigureAwait(false);
        using (var port = new Port())
        using (port.Lock())
        {
            lock (gauge)
                port.Send(gauge);
        }

        var high = gauges
            .Where(one => one.Level > 2 && one is { Kind: Kind.Flood, Name.Length: > 0 })
            .OrderBy(one => one.Name)
            .ToList();
        var names = from one in high
                    join port in ports on one.Port equals port.Number into found
                    let name = one.Name
                    where name != null
                    orderby name descending, one.Level
                    select new { name, one.Level };
        string text = gauge switch
        {
            null => "none",
            { Level: < 0 } => "low",
            Buoy(var east, _) { Lit: true } buoy when east > 2 => buoy.Name,
            [1, .., 3] => "list",
            Mole or Quay and not Pier => "wall",
            _ => throw new Storm(),
        };
        gauge.Rising += (sender, flood) =>
        {
            Warn(flood?.Level ?? 0);
        };
        gauge.Falling += delegate (int level) { Warn(level); };
        var later = gauge with { Level = 2 };
        (int low, int top) = (levels.Values.Min(), levels.Values.Max());
        int[] all = [1, 2, .. levels.Values];
        var part = all[1..^1];
        bool calm = low < top
            ? gauge.Level == low
            : gauge.Level == top;

        try
        {
            checked
            {
                low = -top * 2 + (int)later.Level % 3;
            }
            goto done;
        }
        catch (Storm storm) when (storm.Level > 2)
        {
            throw;
        }
        catch
        {
            low <<= 1;
        }
        finally
        {
            Close();
        }

    done:
        switch (low)
        {
            case 1:
            case 2 when calm:
                Warn(at: low, out int _);
                break;
            case > 3:
            {
                low = 3;
                goto default;
            }
            default:
                while (low-- > 0)
                    Warn(low);
                break;
        }

#if QUIET
        if (calm)
#else
        if (calm && low > 0)
#endif
        {
            Send(@"C:\alarms ""quay""", """
                one
                  two
                """, 'x', "low"u8);
        }
        unsafe
        {
            fixed (byte* first = buffer)
            {
                Print(sizeof(int) + first->Size, typeof(List<>), default(int), *first);
            }
            Span<int> room = stackalloc int[3] { 1, 2, 3 };
        }
        return text;

        static int Twice(int level) => level * 2;
    }
}
