using System.Collections.Immutable;

namespace HoldCourt.Core.Recording;

/// <summary>A place in a picture, in pixels; all even, as pictures with halved colours need it.</summary>
public readonly record struct Area(int X, int Y, int Wide, int High)
{
    /// <summary>The largest area of a shape in the middle of this one.</summary>
    public Area Fit(double wide, double high)
    {
        var scale = Math.Min(Wide / wide, High / high);
        var (w, h) = (Even(wide * scale), Even(high * scale));
        return new Area(X + Even((Wide - w) / 2.0), Y + Even((High - h) / 2.0), w, h);
    }

    public bool Overlaps(Area other) =>
        X < other.X + other.Wide && other.X < X + Wide && Y < other.Y + other.High && other.Y < Y + High;

    internal static int Even(double length) => Math.Max(0, (int)length & ~1);
}

/// <summary>Where something stands in a film.</summary>
/// <param name="Seat">Whose picture; null for an exhibit.</param>
/// <param name="Exhibit">The number of what is shown; null for a person.</param>
public readonly record struct Placed(SeatId? Seat, int? Exhibit, Area Area, bool Large);

/// <summary>How the pictures of a film stand: a pure function of the scene, of who speaks, and of the framing.</summary>
public static class Placing
{
    /// <summary>A column of small pictures takes this share of the width.</summary>
    private const double Column = 0.2;

    private const double Shape = 16.0 / 9;

    /// <summary>Most people in a picture where all stand alike.</summary>
    public const int MostEven = 25;

    /// <param name="wide">Of the film, in pixels.</param>
    public static ImmutableArray<Placed> Of(Scene scene, SeatId? speaker, Framing framing, int wide, int high)
    {
        if (framing == Framing.Sound) return [];
        var whole = new Area(0, 0, wide, high);
        var first = scene.Floor ?? (scene.People.Any(person => person.Seat == speaker) ? speaker : null)
            ?? scene.People.FirstOrDefault(person => person.Camera)?.Seat ?? scene.People.FirstOrDefault()?.Seat;
        var others = scene.People.Where(person => person.Camera && person.Seat != first).Select(person => person.Seat).ToList();
        if (framing == Framing.Even && scene.Shown.IsEmpty) return Grid([.. InOrder(scene, first)], whole);
        var aside = Area.Even(wide * Column);
        var (left, right) = (new Area(0, 0, wide - aside, high), new Area(wide - aside, 0, aside, high));
        if (!scene.Shown.IsEmpty)
        {
            List<SeatId> people = framing switch
            {
                Framing.Exhibit => first is { } one ? [one] : [],
                _ => [.. first is { } one ? new[] { one } : [], .. others]
            };
            return [.. Exhibits(scene.Shown, people.Count > 0 ? left : whole), .. Stack(people, right)];
        }
        if (first is not { } lead) return [];
        return others.Count == 0
            ? [new Placed(lead, null, whole, true)]
            : [new Placed(lead, null, left.Fit(Shape, 1), true), .. Stack(others, right)];
    }

    /// <summary>Everybody with a camera, and whoever speaks.</summary>
    private static IEnumerable<SeatId> InOrder(Scene scene, SeatId? first)
    {
        var all = scene.People.Where(person => person.Camera || person.Seat == first).Select(person => person.Seat).ToList();
        return all.Count <= MostEven ? all : all.Where(seat => seat == first).Concat(all.Where(seat => seat != first)).Take(MostEven);
    }

    private static ImmutableArray<Placed> Grid(List<SeatId> people, Area area)
    {
        if (people.Count == 0) return [];
        var across = (int)Math.Ceiling(Math.Sqrt(people.Count));
        var down = (people.Count + across - 1) / across;
        var (wide, high) = (Area.Even((double)area.Wide / across), Area.Even((double)area.High / down));
        return
        [
            .. people.Select((seat, at) =>
            {
                var row = at / across;
                var inRow = Math.Min(across, people.Count - (row * across));
                // A row that is not full stands in the middle.
                var x = Area.Even((area.Wide - (inRow * wide)) / 2.0) + (at % across * wide);
                return new Placed(seat, null, new Area(x, Area.Even((area.High - (down * high)) / 2.0) + (row * high), wide, high)
                    .Fit(Shape, 1), people.Count == 1);
            })
        ];
    }

    private static IEnumerable<Placed> Exhibits(ImmutableArray<SceneExhibit> shown, Area area)
    {
        var wide = Area.Even((double)area.Wide / shown.Length);
        return shown.Select((exhibit, at) =>
            new Placed(null, exhibit.Number, area with { X = area.X + (at * wide), Wide = wide }, true));
    }

    private static IEnumerable<Placed> Stack(List<SeatId> people, Area area)
    {
        var high = Area.Even(area.Wide / Shape);
        var fits = Math.Min(people.Count, area.High / Math.Max(2, high));
        return people.Take(fits).Select((seat, at) =>
            new Placed(seat, null, new Area(area.X, area.Y + (at * high), area.Wide, high), false));
    }
}
