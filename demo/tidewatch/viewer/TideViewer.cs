using System;
using System.Collections.Generic;
using System.Linq;
using System.Threading.Tasks;

namespace Saltmarsh.Viewer
{
    /// <summary>
    /// The window on the harbour master's desk: a curve for each gauge, and a lamp for each alarm.
    /// </summary>
    public sealed class TideViewer : IDisposable
    {
        private static readonly TimeSpan Stale = TimeSpan.FromMinutes(30);

        private readonly Dictionary<string, List<Reading>> readings = new();
        private readonly ITideService service;

        public TideViewer(ITideService service, string title)
            : base(title)
        {
            this.service = service ?? throw new ArgumentNullException(nameof(service));
        }

        public string Station { get; private set; } = "north quay";
        public bool IsStormy => Latest(Station)?.Metres > 4.5;

        #region Readings

        /// <summary>The last reading of a station that is not too old.</summary>
        public Reading Latest(string station)
        {
            if (!readings.TryGetValue(station, out var known) || known.Count == 0)
            {
                return null;
            }
            var last = known[^1];
            return service.Now - last.At > Stale ? null : last;
        }

        /// <summary>The stations whose water stands higher than this, the highest first.</summary>
        public IEnumerable<string> Above(double metres)
        {
            return readings.Keys
                .Where(station => Latest(station)?.Metres > metres)
                .OrderByDescending(station => Latest(station).Metres);
        }

        #endregion

        public async Task Refresh()
        {
            foreach (var station in readings.Keys.ToList())
            {
                try
                {
                    var reading = await service.Read(station);
#if DEBUG
                    Console.WriteLine($"{station}: {reading.Metres:N2} m");
#endif
                    readings[station].Add(reading);
                }
                catch (TimeoutException)
                {
                    Lamp(station, LampColour.Grey);
                }
            }
        }

        private void Lamp(string station, LampColour colour)
        {
            var lamp = new Lamp
            {
                Station = station,
                Colour = colour,
                Blinks = colour == LampColour.Red,
            };
            lamp.Light();
        }

        public void Dispose()
        {
            readings.Clear();
        }
    }
}
