using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;
using HoldCourt.Core.Admission;
using HoldCourt.Core.Chat;
using HoldCourt.Core.CommandLine;
using HoldCourt.Core.Floor;
using HoldCourt.Core.Orders;
using HoldCourt.Core.People;
using HoldCourt.Core.RunSheets;
using HoldCourt.Core.Sittings;

namespace HoldCourt.Core.Tests;

public class CommandLineTests
{
    private readonly House _house = House.Opened();
    private readonly SeatId _teodor, _nia, _waiting;

    public CommandLineTests()
    {
        _teodor = _house.Admits("Teodor Quill", Role.Presenter);
        _nia = _house.Admits("Nia Okafor");
        _house.Admits("Nia Okonkwo");
        _house.Do(_nia, new OpenMicrophone());
        _house.Do(_nia, new RaiseHand());
        _house.Do(House.Host, new SetRunSheet([new Item(7, "Reports"), new Item(8, "Questions")]));
        _waiting = _house.Arrives("Jun Takeda");
    }

    private Reading Read(string line) => Reader.Read(
        new Scope(_house.Sitting, House.Host, new Instant(1_770_000_900_000), [new NamedPreset("Hearing", DoorMode.Listed, OrderSheet.Usual)]), line);

    /// <summary>A line for each pattern: what stands in each slot.</summary>
    private static string Filled(string pattern) => string.Join(' ', pattern.Split(' ').Select(part => part switch
    {
        "{people}" => "Teodor Quill, Nia Okafor",
        "{person}" => "quill",
        "{length}" => "3 min",
        "{number}" => "1",
        "{item}" => "questions",
        "{preset}" => "hearing",
        "{role}" => "presenter",
        "{door}" => "listed",
        "{audience}" => "the bench",
        "{order}" => "writing to all",
        "{exception}" => "show the camera",
        "{state}" => "cannot hear",
        "{sign}" => "applause",
        "{arrangement}" => "pair",
        "{question}" => "answered",
        "{text}" => "Words of one’s own",
        _ => part
    })).Replace(" :", ":", StringComparison.Ordinal);

    [Fact]
    public void Every_command_has_a_sentence_and_every_sentence_is_read_as_its_command()
    {
        foreach (var phrase in Phrases.All)
        {
            var reading = Read(Filled(phrase.Pattern));
            reading.Trouble.ShouldBeNull(Filled(phrase.Pattern));
            reading.Command.ShouldBeOfType(phrase.Of, Filled(phrase.Pattern));
        }
        var commands = typeof(SeatCommand).GetCustomAttributes<JsonDerivedTypeAttribute>().Select(one => one.DerivedType);
        commands.Except(Phrases.All.Select(phrase => phrase.Of)).ShouldBeEmpty();
    }

    [Fact]
    public void Lines_mean_what_a_host_would_mean_by_them()
    {
        Means("mute all but presenters", new MuteAll());
        Means("floor to Teodor for 3 min", new GiveFloor(_teodor, 180));
        Means("floor to nia okaf for 90 s", new GiveFloor(_nia, 90));
        Means("Lock, late people wait", new LockDoor("", true));
        Means("lock: The hearing has begun.", new LockDoor("The hearing has begun.", false));
        Means("admit waiting as presenter", new Admit([_waiting], Role.Presenter));
        Means("mute Teodor and nia okafor", new Mute([_teodor, _nia]));
        Means("make hands presenters", new GiveRole([_nia], Role.Presenter));
        Means("write to Teodor: see you at 3:30, yes?", new Write(new Recipient(Reach.One, _teodor), "see you at 3:30, yes?"));
        Means("item 2", new TurnToItem(8));
        Means("rename jun to Jun T.", new Rename(_waiting, "Jun T."));
        Means("recess of 1.5 h: Tea", new Timing.CallRecess("Tea", 90));
    }

    private void Means(string line, SeatCommand command)
    {
        var reading = Read(line);
        reading.Trouble.ShouldBeNull(line);
        JsonSerializer.Serialize(reading.Command, CoreJson.Options).ShouldBe(JsonSerializer.Serialize(command, CoreJson.Options), line);
    }

    [Theory]
    [InlineData("", Trouble.Empty, null)]
    [InlineData("dance", Trouble.NotUnderstood, null)]
    [InlineData("floor to", Trouble.Unfinished, null)]
    [InlineData("mute Zed", Trouble.UnknownName, "Zed")]
    [InlineData("floor to Zed for 3 min", Trouble.UnknownName, "Zed")]
    [InlineData("remove nia for good", Trouble.DoubtfulName, "nia")]
    [InlineData("mute deputies", Trouble.NobodyThere, "deputies")]
    [InlineData("extend by some", Trouble.Unfinished, null)]
    public void What_keeps_a_line_from_being_done_is_said(string line, Trouble trouble, string? about)
    {
        var reading = Read(line);
        reading.Command.ShouldBeNull();
        (reading.Trouble, reading.About).ShouldBe((trouble, about));
    }

    [Theory]
    [InlineData("mu", "mute ", "mute all")]
    [InlineData("floor to ", "floor to the next", "floor to Jun Takeda")]
    [InlineData("floor to te", "floor to Teodor Quill", null)]
    [InlineData("mute Teodor, ni", "mute Teodor, Nia Okafor", "mute Teodor, Nia Okonkwo")]
    [InlineData("make nia okafor ", "make nia okafor attendee", null)]
    [InlineData("floor to Teodor Quill ", "floor to Teodor Quill for ", null)]
    [InlineData("door ", "door open", "door listed")]
    [InlineData("item Re", "item Reports", null)]
    public void A_line_is_completed(string line, string first, string? second)
    {
        var completions = Read(line).Completions;
        completions.ShouldContain(first);
        if (second is not null) completions.ShouldContain(second);
    }

    [Fact]
    public void Nothing_that_is_typed_breaks_the_reader()
    {
        string[] odd = [":", "::: :", "mute ,,,", "floor to for for for", new string('a', 100_000), "write to : : x", "add item of of 3 min", "\t", "message 99999999999 is answered"];
        foreach (var line in odd) Should.NotThrow(() => Read(line));
    }
}
