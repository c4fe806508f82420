using System.Text.Json;
using FsCheck.Xunit;

namespace HoldCourt.Core.Tests;

public class MediaTests
{
    private static readonly SeatId _a = new(1), _b = new(2), _c = new(3);

    [Fact]
    public void A_cough_does_not_win_and_a_pause_does_not_lose()
    {
        var levels = new VoiceLevels();
        Play(levels, 0, 3_000, at => [(_a, 30), (_b, 127)]).ShouldBe(_a);
        Play(levels, 3_000, 3_060, at => [(_a, 30), (_b, 10)]).ShouldBe(_a);
        Play(levels, 3_060, 4_000, at => [(_a, 30), (_b, 127)]).ShouldBe(_a);
        Play(levels, 4_000, 5_500, at => [(_a, 127), (_b, 127)]).ShouldBe(_a);
        Play(levels, 5_500, 7_000, at => [(_a, 127), (_b, 28)]).ShouldBe(_b);
    }

    [Fact]
    public void A_murmur_beside_the_speaker_does_not_take_over_and_four_voices_at_most_are_forwarded()
    {
        var levels = new VoiceLevels();
        Play(levels, 0, 2_000, at => [(_a, 28), (_b, 45), (_c, 44), (new(4), 46), (new(5), 50), (new(6), 60)]).ShouldBe(_a);
        var forwarded = levels.Forwarded(new Instant(2_000), always: seat => seat == new SeatId(6));
        forwarded.Count.ShouldBe(VoiceLevels.MostForwarded);
        forwarded.ShouldContain(_a);
        forwarded.ShouldContain(new SeatId(6), "who holds the floor is forwarded always");
    }

    private static SeatId? Play(VoiceLevels levels, int from, int to, Func<int, (SeatId Seat, byte Level)[]> frames)
    {
        for (var at = from; at < to; at += 20)
        {
            foreach (var (seat, level) in frames(at)) levels.Hear(seat, level, new Instant(at));
            if (at % 100 == 0) levels.Decide(new Instant(at));
        }
        return levels.Speaker;
    }

    [Fact]
    public void Pictures_are_shared_out_within_the_viewers_capacity_and_only_of_those_who_may_be_seen()
    {
        var house = House.Opened();
        var (big, small, dark) = (house.Admits("Big"), house.Admits("Small"), house.Admits("Dark"));
        foreach (var seat in new[] { big, small, House.Host }) house.Do(seat, new TurnCamera(true));
        Wish[] wishes = [new(small, 90), new(big, 400), new(dark, 400), new(House.Host, 300)];

        var state = StageState.Unknown.With(StageChange.Whole(house.Sitting));
        IReadOnlyDictionary<SeatId, Layer> For(SeatId viewer, long capacity) =>
            ForwardingPlan.Allot(wishes.Where(wish => state.MayBeSeen(wish.Sender, viewer)), capacity)
                .ToDictionary(pair => pair.Key.Sender, pair => pair.Value);
        For(House.Host, 2_000_000).ShouldBe(new Dictionary<SeatId, Layer> { [big] = Layer.Full, [small] = Layer.Thumb }, ignoreOrder: true);
        For(House.Host, 250_000).Values.ShouldBe([Layer.Thumb, Layer.Thumb]);
        var waiting = house.Arrives("Waiting");
        state = state.With(StageChange.Whole(house.Sitting));
        For(waiting, 2_000_000).ShouldBeEmpty();
    }

    /// <summary>What the relay was told, change by change, lets it answer as the rules do: told here as a table.</summary>
    [Property(Arbitrary = [typeof(PropertyTests.Wishes)], MaxTest = 200)]
    public void The_relay_lets_pass_what_may_be_heard_and_seen_and_nothing_else(PropertyTests.Step[] steps)
    {
        var house = House.Opened(DoorMode.Open);
        for (var n = 1; n <= 5; n++) house.Arrives($"listed{n}", new PersonKey($"guest:key{n}"));
        var state = StageState.Unknown.With(StageChange.Whole(house.Sitting));
        foreach (var step in steps)
        {
            var before = house.Sitting;
            house.Do(step.By == 0 ? Actor.House : Actor.Of(new SeatId(step.By)), step.Command);
            if (StageChange.Of(before, house.Sitting) is { } change) state = state.With(change);
            var sitting = house.Sitting;
            bool Rests(Seat seat) => sitting.Phase == Phase.Recess && seat.Role < Role.Deputy;
            foreach (var seat in sitting.Seats)
            {
                state.MayBeHeard(seat.Id).ShouldBe(seat is { Place: Place.Seated, MicrophoneOpen: true } && !Rests(seat));
                state.MayReceive(seat.Id).ShouldBe(seat.Place == Place.Seated && !Rests(seat));
                state.IsHere(seat.Id).ShouldBe(seat.Place != Place.Gone);
                foreach (var other in sitting.Seats.Where(other => other.Id != seat.Id))
                    state.MayBeSeen(other.Id, seat.Id).ShouldBe(
                        other is { Place: Place.Seated, CameraOn: true } && !Rests(other) && seat.Place == Place.Seated && !Rests(seat)
                        && (seat.Role >= Role.Deputy || other.Role > Role.Attendee || sitting.Turn?.Seat == other.Id
                            || sitting.Picture.Front.Contains(other.Id)
                            || sitting.Orders.SeePeople == Audience.Everyone
                                || (sitting.Orders.SeePeople == Audience.Presenters && seat.Role == Role.Presenter)));
            }
            state.Floor.ShouldBe(sitting.Turn?.Seat);
        }
    }

    [Property]
    public void A_frame_header_reads_back_as_written(ushort track, uint sequence, byte level, ushort duration, ulong time)
    {
        var header = new FrameHeader(40, Service.Camera, FrameMarks.Key, track, sequence, (byte)(level % 128), 1, duration, time);
        var bytes = new byte[40];
        header.Write(bytes);
        FrameHeader.TryRead(bytes, out var read).ShouldBeTrue();
        read.ShouldBe(header);
        FrameHeader.TryRead(bytes.AsSpan(0, 39), out _).ShouldBeFalse();
    }

    /// <summary>Headers that are nearly right, since random bytes hardly pass the first check.</summary>
    [Property(MaxTest = 2_000)]
    public void A_header_with_one_byte_altered_or_cut_off_is_read_within_its_bytes_or_not_at_all(ushort track, byte at, byte value,
        byte cut, bool alters)
    {
        var bytes = new byte[60];
        new FrameHeader(40 + (track % 20), Service.Voice, FrameMarks.Key, track, 7, 20, 0, 200, 5).Write(bytes);
        if (alters) bytes[at % FrameHeader.Size] = value;
        var given = bytes.AsSpan(0, Math.Max(0, bytes.Length - (cut % 40)));
        if (!FrameHeader.TryRead(given, out var read)) return;
        read.Length.ShouldBeInRange(FrameHeader.Size, given.Length);
        Enum.IsDefined(read.Service).ShouldBeTrue();
    }

    [Fact]
    public void Tiles_lie_inside_the_area_without_touching_and_match_the_vectors_that_the_browser_is_held_to()
    {
        var vectors = (from size in new[] { (Width: 576, Height: 640), (Width: 860, Height: 560), (Width: 360, Height: 400),
            (Width: 1256, Height: 430) }
                       from count in new[] { 1, 2, 3, 5, 7, 12, 30, 49 }
                       select new
                       {
                           count,
                           size.Width,
                           size.Height,
                           even = Placement.Even(count, size.Width, size.Height, 8, 26),
                           lead = Placement.Lead(count, size.Width, size.Height, 8, 26, 96),
                           pair = Placement.Front(count, 2, size.Width, size.Height, 8, 26, 96)
                       }).ToList();
        foreach (var vector in vectors)
        {
            vector.even.Length.ShouldBe(vector.count);
            foreach (var tiles in new[] { vector.even, vector.lead, vector.pair })
                foreach (var (tile, index) in tiles.Select((tile, index) => (tile, index)))
                {
                    (tile.X >= 0 && tile.Y >= 0 && tile.X + tile.Width <= vector.Width && tile.Y + tile.Height <= vector.Height)
                        .ShouldBeTrue($"{tile} in {vector.Width}x{vector.Height}");
                    tiles.Take(index).ShouldAllBe(other => other.X + other.Width <= tile.X || tile.X + tile.Width <= other.X
                        || other.Y + other.Height <= tile.Y || tile.Y + tile.Height <= other.Y);
                }
        }
        var file = Path.Combine(Repository.Root, "tests", "vectors", "picture.json");
        var text = JsonSerializer.Serialize(vectors, CoreJson.Options);
        if (Environment.GetEnvironmentVariable("WRITE_VECTORS") == "1") File.WriteAllText(file, text + "\n");
        File.ReadAllText(file).Trim().ShouldBe(text, "run with WRITE_VECTORS=1 when the arithmetic is meant to change");
    }
}
