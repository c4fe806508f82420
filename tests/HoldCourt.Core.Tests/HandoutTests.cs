namespace HoldCourt.Core.Tests;

public class HandoutTests
{
    private readonly House _house = House.Opened(DoorMode.Open);
    private readonly SeatId _nia, _teodor;

    public HandoutTests()
    {
        _nia = _house.Arrives("Nia Okafor");
        _teodor = _house.Arrives("Teodor Quill");
        _house.Do(House.Host, new GiveRole([_teodor], Role.Presenter)).Refusal.ShouldBeNull();
    }

    private static GiveFile File(string name = "map.pdf", SeatId? to = null, long size = 2_000, FileSort sort = FileSort.Document) =>
        new($"file of {name}", name, size, sort, to);

    private HandoutRow? Of(SeatId seat, int number) =>
        MeRow.Of(_house.Sitting, _house.Sitting.Seats[seat]).Handouts.FirstOrDefault(row => row.Number == number);

    [Fact]
    public void A_file_goes_to_everyone_inside_who_take_it_or_not_and_the_giver_sees_how_many()
    {
        _house.Do(_teodor, File()).Refusal.ShouldBeNull();
        Of(_nia, 1).ShouldNotBeNull().State.ShouldBe(HandoutState.Offered);
        _house.Do(_nia, new RefuseFile(1));
        Of(_nia, 1)!.State.ShouldBe(HandoutState.Refused);
        _house.Do(_nia, new TakeFile(1)).Refusal.ShouldBeNull("one may think again");
        Of(_nia, 1)!.State.ShouldBe(HandoutState.Taken);
        Of(_nia, 1)!.Count.ShouldBe(0, "who else took it is not theirs to know");
        Of(_teodor, 1)!.Count.ShouldBe(1);
        _house.Do(_teodor, new TakeFile(1)).Refusal!.Reason.ShouldBe(Reason.NoSuchHandout);
        // Who comes later finds it, and nobody in the lobby.
        var ilse = _house.Arrives("Ilse Vantorre");
        Of(ilse, 1)!.State.ShouldBe(HandoutState.Offered);
        _house.Do(House.Host, new SendToLobby([ilse]));
        Of(ilse, 1).ShouldBeNull();
        _house.Do(ilse, new TakeFile(1)).Refusal!.Reason.ShouldBe(Reason.NotInside);
        _house.Do(House.Host, new EndHandout(1)).Refusal.ShouldBeNull();
        Of(_nia, 1).ShouldBeNull();
    }

    [Fact]
    public void What_goes_to_one_person_is_theirs_alone_and_stands_in_no_ledger_by_its_name()
    {
        var ilse = _house.Arrives("Ilse Vantorre");
        _house.Do(_teodor, File("salary.pdf", _nia)).Refusal.ShouldBeNull();
        foreach (var other in new[] { House.Host, ilse })
        {
            Of(other, 1).ShouldBeNull();
            foreach (var wish in new SeatCommand[] { new TakeFile(1), new EndHandout(1), new RefuseFile(1) })
                _house.Do(other, wish).Refusal!.Reason.ShouldBe(Reason.NoSuchHandout);
        }
        _house.Do(House.Host, new KeepHandout(1)).Refusal!.Reason.ShouldBe(Reason.NoSuchHandout);
        Projection.Whole(_house.Sitting, Viewer.Bench, [.. _house.Entries]).Ledger
            .ShouldNotContain(row => row.Detail != null && row.Detail.Contains("salary"));
        _house.Do(_nia, new TakeFile(1)).Refusal.ShouldBeNull();
        // Not to oneself, nor to somebody who is not there.
        _house.Do(_teodor, File(to: _teodor)).Refusal!.Reason.ShouldBe(Reason.NobodySeated);
        _house.Do(_teodor, File(to: new SeatId(99))).Refusal!.Reason.ShouldBe(Reason.NobodySeated);
    }

    [Fact]
    public void The_bench_says_who_hands_out_what_and_who_is_removed_hands_out_nothing_more()
    {
        _house.Do(_nia, File()).Refusal!.Reason.ShouldBe(Reason.HandingOutNotAllowed);
        _house.Do(_teodor, File("tool.exe", sort: FileSort.Other)).Refusal!.Reason.ShouldBe(Reason.HandoutKindNotAllowed);
        _house.Do(House.Host, new SetHandoutRules(new HandoutRules(1, true, false, true))).Refusal.ShouldBeNull();
        _house.Do(_teodor, File("tool.exe", sort: FileSort.Other)).Refusal.ShouldBeNull();
        _house.Do(_teodor, File("photo.png", sort: FileSort.Picture)).Refusal!.Reason.ShouldBe(Reason.HandoutKindNotAllowed);
        _house.Do(_teodor, File("large.pdf", size: 1_000_001)).Refusal!.Reason.ShouldBe(Reason.HandoutTooLarge);
        _house.Do(_teodor, new SetHandoutRules(HandoutRules.Usual)).Refusal.ShouldNotBeNull("rules are the bench's");
        _house.Do(House.Host, new SetHandoutRules(new HandoutRules(101, true, true, true))).Refusal.ShouldNotBeNull();
        _house.Do(House.Host, new TakeBack()).Refusal.ShouldBeNull();
        _house.Sitting.Handouts.Rules.ShouldBe(HandoutRules.Usual);
        _house.Do(House.Host, new Except([_nia], Order.HandOut, true));
        _house.Do(_nia, File()).Refusal.ShouldBeNull();
        _house.Do(House.Host, new Remove([_teodor], MayReturn: true));
        _house.Sitting.Handouts.Out.ShouldHaveSingleItem().By.ShouldBe(_nia);
        _house.Do(_nia, new Leave());
        _house.Sitting.Handouts.Out.ShouldHaveSingleItem("who only left meant it well");
    }
}
