namespace HoldCourt.Core.Media;

/// <summary>A viewer's wish to see somebody.</summary>
/// <param name="Height">How high the picture stands on the screen, in CSS pixels, 0 to 4320.</param>
public readonly record struct Wish(SeatId Sender, int Height, string Source = Wish.Camera)
{
    public const string Camera = "camera", Screen = "screen";

    /// <summary>How the frames of its source are treated.</summary>
    public Service Service => Source == Screen ? Service.Screen : Service.Camera;
}

/// <summary>Who may be heard and seen by whom, and how sharp.</summary>
public static class ForwardingPlan
{
    /// <summary>Bits a second that a layer costs a receiver at most.</summary>
    public const int ThumbCost = 60_000, FullCost = 500_000, VoiceCost = 28_000, ScreenCost = 1_500_000;

    /// <summary>Pictures lower than this are well served by the thumb layer (90 lines).</summary>
    public const int FullFrom = 150;

    /// <summary>Most pictures forwarded to one viewer.</summary>
    public const int MostPictures = 49;

    public static bool MayBeHeard(Sitting sitting, Seat seat) =>
        sitting.IsRunning && seat is { IsSeated: true, MicrophoneOpen: true, Listens: false } && !sitting.Rests(seat);

    public static bool MayBeSeen(Sitting sitting, Seat seat) =>
        sitting.IsRunning && seat is { IsSeated: true, CameraOn: true, Listens: false } && !sitting.Rests(seat);

    /// <summary>Only people who are seated in a sitting in session hear or see anybody.</summary>
    public static bool MayReceive(Sitting sitting, Seat seat) => sitting.IsRunning && seat.IsSeated && !sitting.Rests(seat);

    /// <summary>
    /// The layer of each picture wished for: every picture gets a thumb in the order of its size while the capacity
    /// lasts, then the largest are raised to full. A screen has one layer, which always goes, and leaves half of what there is to
    /// people. A greedy choice by usefulness for each bit, which is within one
    /// picture of the best sum, since all thumbs cost the same and all raises cost the same.
    /// </summary>
    /// <param name="wishes">For pictures that may be seen.</param>
    /// <param name="capacity">What the viewer's connection carries, in bits a second; voices are served first.</param>
    public static IReadOnlyDictionary<(SeatId Sender, string Source), Layer> Allot(IEnumerable<Wish> wishes, long capacity)
    {
        var layers = new Dictionary<(SeatId, string), Layer>();
        var left = capacity - (VoiceLevels.MostForwarded * VoiceCost);
        var seen = wishes.Where(wish => wish.Height > 0)
            .OrderByDescending(wish => wish.Height).ThenBy(wish => wish.Sender).DistinctBy(wish => (wish.Sender, wish.Source))
            .Take(MostPictures).ToList();
        foreach (var screen in seen.Where(wish => wish.Service == Service.Screen))
        {
            left -= Math.Min(ScreenCost, left / 2);
            layers[(screen.Sender, screen.Source)] = Layer.Full;
        }
        seen.RemoveAll(wish => wish.Service == Service.Screen);
        foreach (var wish in seen)
        {
            if (left < ThumbCost) break;
            left -= ThumbCost;
            layers[(wish.Sender, wish.Source)] = Layer.Thumb;
        }
        foreach (var wish in seen.Where(wish => wish.Height >= FullFrom && layers.ContainsKey((wish.Sender, wish.Source))))
        {
            if (left < FullCost - ThumbCost) break;
            left -= FullCost - ThumbCost;
            layers[(wish.Sender, wish.Source)] = Layer.Full;
        }
        return layers;
    }
}
