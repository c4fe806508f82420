using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Views;

/// <summary>The session's state, a facet for each topic. In a change only those stand that are different now.</summary>
public sealed record SittingRow
{
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public SessionFacet? Session { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public DoorFacet? Door { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public CountsFacet? Counts { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public VisitsFacet? Visits { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public StandingOrders? Orders { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public GroupsFacet? Groups { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public FloorFacet? Floor { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public HandsFacet? Hands { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public ChatFacet? Chat { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public PictureFacet? Picture { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public TimeFacet? Time { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public ShelfFacet? Shelf { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public HandoutRules? Files { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public RecordingFacet? Recording { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public CaptionsFacet? Captions { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public PollsFacet? Polls { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public RoomsFacet? Rooms { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public BusinessFacet? Business { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public ItemsFacet? Items { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public TakeBackFacet? TakeBack { get; init; }
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] public TakeableFacet? Takeable { get; init; }
}

/// <summary>All that may be known from a viewpoint, at a version.</summary>
/// <param name="Seats">Of those who have gone only the newest.</param>
public sealed record WholeView(long V, Viewer Viewer, SittingRow Sitting, ImmutableArray<SeatRow> Seats, ImmutableArray<LedgerRow> Ledger);

/// <summary>The way from one version of a view to the next.</summary>
/// <param name="From">The version the browser must hold.</param>
/// <param name="V">The version reached.</param>
/// <param name="Set">The facets that are different now; null when none is.</param>
/// <param name="Put">Rows that are new.</param>
/// <param name="Altered">Rows of which some fields are different now.</param>
/// <param name="Drop">Rows that may be known no longer.</param>
public sealed record ViewChange(
    long From,
    long V,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] SittingRow? Set = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ImmutableArray<SeatRow>? Put = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ImmutableArray<AlteredRows>? Altered = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ImmutableArray<SeatId>? Drop = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ImmutableArray<LedgerRow>? Ledger = null)
{
    [JsonIgnore]
    public bool IsEmpty => Set is null && Put is null && Altered is null && Drop is null && Ledger is null;
}
