#define SALT
// What the tide office knows of a gauge.
extern alias Harbour;
using System;
using System.Collections.Generic;
using static System.Math;
using Level = System.Double;

[assembly: Tide("saltmarsh")]

namespace Saltmarsh.Tides
{
    /// <summary>
    /// A gauge in the harbour.
    /// </summary>
    [Serializable, Obsolete("since 2", false)]
    public abstract partial class Gauge<TLevel, TUnit> : Station, IAlarm<TLevel>
        where TLevel : class, IComparable<TLevel>, new()
        where TUnit : struct
    {
        #region Fields

        private const int Steps = 3;
        private static readonly int[] Low = { 1, 2, 3 };
        private readonly int[,] table = new int[,] { { 1, 20 }, { 300, 4 } };
        protected volatile int ebb = 1, flood; // in metres
        public event EventHandler<Flood>? Rising;

        #endregion

        static Gauge()
        {
            Load();
        }

        protected Gauge(string name, int ebb)
            : base(name)
        {
            this.ebb = ebb;
        }

        ~Gauge() => Close();

        public string Name { get; init; } = "quay";
        public int Ebb => ebb;
        public required TLevel Top { get; private set; }

        public int Flood
        {
            get { return flood; }
            set
            {
                if (value < 0)
                {
                    throw new ArgumentOutOfRangeException(nameof(value));
                }
                flood = value;
            }
        }

        public TLevel this[int at, string unit]
        {
            get => levels[at];
            set => levels[at] = value;
        }

        event Action IAlarm<TLevel>.Silent
        {
            add { silent += value; }
            remove { silent -= value; }
        }

        public static Gauge<TLevel, TUnit> operator +(Gauge<TLevel, TUnit> gauge, int level)
        {
            gauge.ebb += level;
            return gauge;
        }

        public static implicit operator int(Gauge<TLevel, TUnit> gauge) => gauge.ebb;

        public virtual IEnumerable<T> Read<T>(in T first, Func<TLevel, T> by, int most = 10, params T[] rest)
            where T : IComparable<T>
        {
            if (first is null || (rest.Length > 2 && !by.Equals(first)))
            {
                throw new Storm($"nothing to read: {rest.Length,3:N0}");
            }
            else if (ebb < 0)
            {
                yield break;
            }
            else
                Warn();

            for (int at = 0, end = rest.Length; at < end; at++, end--)
            {
                rest[at] = rest[^1];
            }
            foreach (var (name, level) in levels)
                Print(name, level);
            do
            {
                ebb += 2;
            }
            while (ebb < 10);
            yield return (T)by(Top)!;
        }

        [DllImport("tide", SetLastError = true)]
        [return: MarshalAs(UnmanagedType.Bool)]
        private static extern unsafe bool Raise(void* gauge, delegate* unmanaged[Cdecl]<int, void> then);

        partial void Shut();
    }

    internal enum Kind : byte
    {
        Ebb = 1,
        Flood = Ebb << 1,
#if SALT
        Spring,
#endif
    }

    public delegate void Warning(object sender, int level);

    public readonly record struct Point(double X, double Y);

    public record Tide(int Level) : Event(Level), ITide
    {
        public static Tide None { get; } = new(0);
    }

    interface ITide { int Level { get; } }
}
