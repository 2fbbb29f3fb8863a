//! What people keep in C#.

use super::Case;

pub(super) const KEPT: &[Case] = &[
    ("loops that never end, and what is spread", "csharp", &[], "\
class Gauge
{
    void Read()
    {
        for (; ; )
        {
            Store([1, 2, .. others]);
        }
    }
}
"),
    ("loops that never end", "javascript", &[], "\
function read() {
  for (; ; ) {
    store();
  }
}
"),
    ("loops that never end", "java", &[], "\
class Gauge {
    void read() {
        for (; ; ) {
            store();
        }
    }
}
"),
    ("what a made object is filled with, behind what it is made of", "csharp", &[], "\
class Gauge
{
    Board board = new Board<Level>(known)
    {
        Low(quay)
    };

    void Read()
    {
        Send(new Map<Name, Tides.Level>(boards.First[0]) { Quay = 1 }, 2);
    }
}
"),
    ("directives in front of a statement without braces", "csharp", &[], "\
class Gauge
{
    void Read()
    {
        if (level > 3)
#warning the level may be unknown
            Warn();
#line 20
        if (open)
#error not to be
            Close();
    }
}
"),
    ("marks behind types that need none, among directives, too", "csharp", &[], "\
namespace Tide
{
    class Gauge
    {
        enum Zone { North, South };

#if LOW
        struct Level
        {
            int hour;
        };
#endif

        int zone;
    };
}
"),
    ("arrays whose type is told by what they hold, and empty blocks", "csharp", &[], "\
class Gauge : Base
{
    Gauge() : base() { }

    void Warn()
    {
        var levels = new[] { 1, 2 };
        var grid = new[,] { { 1 }, { 2 } };
        Span<int> low = stackalloc[] { 1, 2 };
        var byZone = from level in levels
                     group level by level.Zone into zone
                     select zone;
        Tell(() => { });
    }
}
"),
    ("members of an interface by its name, types without arguments", "csharp", &["vknot_break_keep=all"], "\
class Gauge : IGauge
{
    IEnumerator IEnumerable.GetEnumerator()
    {
        return Read(typeof(Dictionary<,>), typeof(Func<,,>));
    }

    int IGauge<Level>.Level { get; set; }
}
"),
    ("a space in front of all arguments", "csharp", &["vknot_space_arguments=true"], "\
class Gauge
{
    void Warn()
    {
        Send (typeof (Level), default (int), sizeof (long));
    }
}
"),
    ("braces of properties on their line, those of methods on the next", "csharp", &[], "\
class Gauge
{
    int Level {
        get {
            return Read();
        }
        set {
            Write(value);
        }
    }

    int Read()
    {
        return 0;
    }
}
"),
    ("a cast in front of a name with arguments", "csharp", &[], "\
class Gauge
{
    Task Wait()
    {
        return ((IReader)new Handler<Unit>(this, true)).ReadAsync();
    }
}
"),
    ("single statements under what locks", "csharp", &[], "\
class Gauge
{
    unsafe void Warn()
    {
        lock (levels)
            levels[0] = Read();
        fixed (int* level = levels)
            Send();
    }
}
"),
    ("short blocks, and members without a body", "csharp", &["vknot_break_block=several"], "\
interface IGauge { int Read(); }

class Gauge
{
    void Warn()
    {
        if (low) { Send(); return; }
        else { Wait(); }
    }
}
"),
];
