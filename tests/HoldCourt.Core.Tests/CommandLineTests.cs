using System.Text.Json;

namespace HoldCourt.Core.Tests;

public class CommandLineTests
{
    private readonly House _house = House.Opened(DoorMode.Attended, null, new DocketLine("Jun Takeda", Group: "Upper Kell"));
    private readonly SeatId _teodor, _nia, _waiting;

    public CommandLineTests()
    {
        _teodor = _house.Admits("Teodor Quill", Role.Presenter);
        _nia = _house.Admits("Nia Okafor");
        _house.Admits("Nia Okonkwo");
        _house.Do(_nia, new OpenMicrophone());
        _house.Do(_nia, new RaiseHand());
        _house.Do(House.Host, new SetRunSheet([new Item(7, "Reports"), new Item(8, "Questions")]));
        _house.Do(House.Host, new OpenScreen("Reach map"));
        _house.Do(House.Host, new OpenSheet("Numbers"));
        _house.Do(House.Host, new ShowExhibit(2));
        _house.Do(House.Host, new GiveFile("a file", "Budget.pdf", 2_000, FileSort.Document)).Refusal.ShouldBeNull();
        _house.Do(House.Host, new PreparePolls([PollForm.Of(PollKind.YesOrNo)]));
        _house.Do(House.Host, new OpenPoll(PollForm.Of(PollKind.Words, "What else?")));
        _house.Do(House.Host, new PlanRooms(RoomForm.Of("Aller", "Wey"))).Refusal.ShouldBeNull();
        _waiting = _house.Arrives("Jun Takeda");
    }

    private Reading Read(string line, string language = "en") => Reader.Read(
        new Scope(_house.Sitting, House.Host, new Instant(1_770_000_900_000),
            [new NamedPreset("Hearing", DoorMode.Listed, StandingOrders.Usual)], language), line);

    /// <summary>A line for each pattern: what stands in each slot.</summary>
    private static string Filled(string pattern, string language) =>
        string.Join(' ', pattern.Split(' ').Select(part => (part, language) switch
    {
        ("{people}", _) => "Teodor Quill, Nia Okafor",
        ("{comers}", _) => "Jun Takeda",
        ("{person}", _) => "quill",
        ("{length}", _) => "3 min",
        ("{number}", _) => "1",
        ("{item}", _) => "questions",
        ("{exhibit}", _) => "a",
        ("{handout}", _) => "budget",
        ("{group}", _) => "upper",
        ("{preset}", _) => "hearing",
        ("{room}", _) => "Aller",
        ("{poll}", "en") => "A to D",
        ("{poll}", _) => "A do D",
        ("{text}", _) => "Words of one’s own",
        ("{role}", "en") => "presenter",
        ("{door}", "en") => "listed",
        ("{audience}", "en") => "the bench",
        ("{order}", "en") => "writing to all",
        ("{exception}", "en") => "show the camera",
        ("{state}", "en") => "cannot hear",
        ("{sign}", "en") => "applause",
        ("{arrangement}", "en") => "exhibit",
        ("{question}", "en") => "answered",
        ("{framing}", "en") => "sound only",
        ("{watchers}", "en") => "those present",
        ("{framing}", _) => "tylko dźwięk",
        ("{watchers}", _) => "obecnych",
        ("{role}", _) => "prezenterem",
        ("{door}", _) => "wpisani",
        ("{audience}", _) => "prezydium",
        ("{order}", _) => "czat do wszystkich",
        ("{exception}", _) => "pokazywać obraz z kamery",
        ("{state}", _) => "nie słyszę",
        ("{sign}", _) => "brawo",
        ("{arrangement}", _) => "eksponat",
        ("{question}", _) => "pytanie z odpowiedzią",
        _ => part
    })).Replace(" :", ":", StringComparison.Ordinal);

    [Theory]
    [InlineData("en")]
    [InlineData("pl")]
    public void Every_command_has_a_sentence_and_every_sentence_is_read_as_its_command(string language)
    {
        var english = Phrases.In("en");
        foreach (var (phrase, original) in Phrases.In(language).Zip(english))
        {
            var line = Filled(phrase.Pattern, language);
            var reading = Read(line, language);
            reading.Misreading.ShouldBeNull(line);
            var meant = Read(Filled(original.Pattern, "en")).Command;
            JsonSerializer.Serialize(reading.Command, CoreJson.Options).ShouldBe(JsonSerializer.Serialize(meant, CoreJson.Options), line);
            reading.Command.ShouldBeOfType(phrase.Of, line);
            if (language != "en") phrase.Pattern.ShouldNotBe(original.Pattern);
        }
        CoreJson.MembersOf(typeof(SeatCommand)).Except(english.Select(phrase => phrase.Of)).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("en", "{0} for presenters", "keep Nia Okafor from {0}")]
    [InlineData("pl", "{0} dla prezenterów", "zabroń Nia Okafor {0}")]
    public void The_command_line_understands_the_words_of_the_panels(string language, string order, string exception)
    {
        using var catalogue = JsonDocument.Parse(
            File.ReadAllText(Path.Combine(Repository.Root, "web", "src", "locales", language + ".json")), default);
        static Order OrderOf(JsonProperty text) => JsonSerializer.Deserialize<Order>($"\"{text.Name}\"", CoreJson.Options);
        foreach (var name in catalogue.RootElement.GetProperty("orders").GetProperty("name").EnumerateObject())
            Read(string.Format(null, order, name.Value),
                language).Command.ShouldBe(new SetOrder(OrderOf(name), Audience.Presenters), name.Name);
        foreach (var capability in catalogue.RootElement.GetProperty("capabilityOf").EnumerateObject())
        {
            var except = Read(string.Format(null, exception, capability.Value), language).Command.ShouldBeOfType<Except>(capability.Name);
            except.ShouldSatisfyAllConditions(wish => wish.Order.ShouldBe(OrderOf(capability)), wish => wish.Seats.ShouldBe([_nia]), wish =>
                wish.May.ShouldBe(false));
        }
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
        Means("admit everyone", new Admit([_waiting]));
        var second = _house.Arrives("Nia Okafor", new PersonKey("guest:telephone"));
        Means("decline all", new Decline([_waiting, second]));
        Means("admit nia", new Admit([second]));
        Read("admit nia").Completions.ShouldNotContain("admit Nia Okonkwo");
        _house.Do(House.Host, new Decline([second]));
        Means("mute Teodor and nia okafor", new Mute([_teodor, _nia]));
        Means("make hands presenters", new GiveRole([_nia], Role.Presenter));
        Means("write to Teodor: see you at 3:30, yes?", new Write(new Recipient(Reach.One, _teodor), "see you at 3:30, yes?"));
        Means("item 2", new TurnToItem(8));
        Means("rename jun to Jun T.", new Rename(_waiting, "Jun T."));
        Means("take down reach", new TakeDown(1));
        Means("let group upper show", new ExceptGroup("Upper Kell", Order.Exhibit, true));
        Means("keep group Upper Kell from speak", new ExceptGroup("Upper Kell", Order.Speak, false));
        Means("exhibits for everyone", new SetOrder(Order.Exhibit, Audience.Everyone));
        Means("recess of 1.5 h: Tea", new Timing.CallRecess("Tea", 90));
    }

    private void Means(string line, SeatCommand command)
    {
        var reading = Read(line);
        reading.Misreading.ShouldBeNull(line);
        JsonSerializer.Serialize(reading.Command, CoreJson.Options).ShouldBe(JsonSerializer.Serialize(command, CoreJson.Options), line);
    }

    [Theory]
    [InlineData("", Misreading.Empty, null)]
    [InlineData("dance", Misreading.NotUnderstood, null)]
    [InlineData("floor to", Misreading.Unfinished, null)]
    [InlineData("mute Zed", Misreading.UnknownName, "Zed")]
    [InlineData("floor to Zed for 3 min", Misreading.UnknownName, "Zed")]
    [InlineData("remove nia for good", Misreading.DoubtfulName, "nia")]
    [InlineData("mute deputies", Misreading.NobodyThere, "deputies")]
    [InlineData("extend by some", Misreading.Unfinished, null)]
    public void What_keeps_a_line_from_being_done_is_said(string line, Misreading misreading, string? about)
    {
        var reading = Read(line);
        reading.Command.ShouldBeNull();
        (reading.Misreading, reading.About).ShouldBe((misreading, about));
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
        string[] odd = [":", "::: :", "mute ,,,", "floor to for for for", new string('a', 100_000), "write to : : x",
            "add item of of 3 min", "\t", "message 99999999999 is answered"];
        foreach (var line in odd) Should.NotThrow(() => Read(line));
    }
}
