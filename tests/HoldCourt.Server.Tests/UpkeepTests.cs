using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Upkeep;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>Backup and restore, what is kept for a time, what is erased, and what the keeper sees.</summary>
public sealed class UpkeepTests : IAsyncLifetime
{
    private readonly string _folder = Directory.CreateTempSubdirectory("hold-court-backup-").FullName;
    private Court _court = new();

    public Task InitializeAsync() => _court.InitializeAsync();

    public async Task DisposeAsync()
    {
        await _court.DisposeAsync();
        Directory.Delete(_folder, recursive: true);
    }

    private static async Task<(int Code, string Said)> Run(string command, params string[] more)
    {
        var program = Path.Combine(AppContext.BaseDirectory, "HoldCourt.Server.dll");
        using var run = Process.Start(
            new ProcessStartInfo("bash",
            ["-c", $"{command} \"$@\" 2>&1", "bash", "dotnet", program, .. more])
            { RedirectStandardOutput = true })!;
        var said = await run.StandardOutput.ReadToEndAsync();
        await run.WaitForExitAsync();
        return (run.ExitCode, said);
    }

    /// <param name="killed">A start before it was killed after the first of its two steps.</param>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_database_of_before_the_first_release_is_brought_over_and_has_the_form_of_a_new_one(bool killed)
    {
        // Columns as they stand in the tables, where they may come in any order, keys, and indexes.
        const string Form = """
            select t.name, c.name, c.type, c."notnull", c.pk, t.wr from pragma_table_list t, pragma_table_xinfo(t.name) c
            where t.schema = 'main' and t.type = 'table' and t.name not like 'sqlite%' and t.name not like '%Lock' order by 1, 2
            """;
        const string Keys = """
            select t.name, k."table", k."from", k."to", k.on_delete from pragma_table_list t, pragma_foreign_key_list(t.name) k
            order by 1, 3
            """;
        const string Indexes = "select tbl_name, sql from sqlite_master where type = 'index' and sql is not null order by 1, 2";
        // What is in it, of what a start does not touch.
        const string Rows = """
            select Id, Title, Link, OwnerId, Docket from (select *, (select count(*) from Docket where SessionId = Sessions.Id) as Docket
            from Sessions) union all select SittingId, Sequence, Json, hex(Digest), Topic from Entries order by 1, 2
            """;
        var folder = Directory.CreateDirectory(Path.Combine(_folder, "older")).FullName;
        List<string> rows;
        await using (var older = await Older.Open(folder))
        {
            rows = await older.Lines(Rows);
            rows.Count.ShouldBeGreaterThan(60);
        }
        if (killed)
            await using (var half = await Older.Of(Path.Combine(folder, BackupFile.DatabaseName)))
                await half.Do("delete from __EFMigrationsHistory where MigrationId < (select max(MigrationId) from __EFMigrationsHistory)");
        var brought = await Court.In(folder);
        await using (var now = await Older.Of(Path.Combine(folder, BackupFile.DatabaseName)))
        await using (var anew = await Older.Of(Path.Combine(_court.Folder, BackupFile.DatabaseName)))
        {
            foreach (var question in new[] { Form, Keys, Indexes })
                (await now.Lines(question)).ShouldBe(await anew.Lines(question), question);
            rows.Except(await now.Lines(Rows)).ShouldBeEmpty();
        }
        using var odalys = await brought.Host();
        (await odalys.Get<JsonElement>("/api/sessions")).GetArrayLength().ShouldBe(2);
        Directory.GetFiles(folder, "hold-court-before-*.db").ShouldHaveSingleItem("a copy of before");
        await brought.Restart();
        Directory.GetFiles(folder, "hold-court-before-*.db").ShouldHaveSingleItem();
        await brought.Stop();
        (await Run("", "ledger", "verify", "--Data:Folder", folder)).Said.ShouldContain(", 0 broken");
    }

    [Fact]
    public async Task A_backup_made_while_people_write_is_put_back_into_an_empty_folder_and_everybody_has_their_seat()
    {
        using var host = await _court.Host();
        using var guest = _court.Visitor();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Kept safe"));
        await using (var live = await host.Announces(opened, "Odalys"))
        await using (var other = await guest.Announces(opened, "Nia Okafor"))
        {
            await live.Done(new Admit([other.Me!.Seat]));
            using var stop = new CancellationTokenSource();
            var written = 0;
            var writing = Task.Run(async () =>
            {
                for (; !stop.IsCancellationRequested; written++)
                {
                    await live.Do(new SetDoor(written % 2 == 0 ? DoorMode.Open : DoorMode.Attended));
                    await Task.Delay(20);
                }
            });
            await Eventually.Holds(() => written > 10);
            var (code, said) = await Run("", "backup", Path.Combine(_folder, "a.zip"), "--Data:Folder", _court.Folder);
            code.ShouldBe(0, said);
            await stop.CancelAsync();
            await writing;
        }
        if (!OperatingSystem.IsWindows())
            File.GetUnixFileMode(Path.Combine(_folder, "a.zip")).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        (await Run("", "backup", Path.Combine(_folder, "a.zip"), "--Data:Folder", _court.Folder))
            .ShouldSatisfyAllConditions(again => again.Code.ShouldBe(1), again => again.Said.ShouldContain("stands there already"));
        Directory.GetFiles(_folder).ShouldBe([Path.Combine(_folder, "a.zip")], "nothing else is left");

        var target = Path.Combine(_folder, "back");
        var restored = await Run("", "restore", Path.Combine(_folder, "a.zip"), "--Data:Folder", target);
        restored.ShouldSatisfyAllConditions(done => done.Code.ShouldBe(0, restored.Said), done => done.Said.ShouldContain("0 broken"));
        (await Run("", "restore", Path.Combine(_folder, "a.zip"), "--Data:Folder", target))
            .ShouldSatisfyAllConditions(again => again.Code.ShouldBe(1), again => again.Said.ShouldContain("not empty"));

        // Another machine with what was put back: the cookies of before still count, and seats and names are there.
        await _court.Stop();
        foreach (var file in Directory.GetFiles(_court.Folder)) File.Delete(file);
        Directory.Delete(Path.Combine(_court.Folder, "keys"), recursive: true);
        File.Copy(Path.Combine(target, BackupFile.DatabaseName), Path.Combine(_court.Folder, BackupFile.DatabaseName));
        Directory.Move(Path.Combine(target, "keys"), Path.Combine(_court.Folder, "keys"));
        await _court.Restart();
        await using var again = await guest.Connects(opened);
        again.Me!.ShouldSatisfyAllConditions(me => me.Name.ShouldBe("Nia Okafor"), me => me.Place.ShouldBe(Place.Seated));
        (await host.Get<Me>("/api/me")).Email.ShouldNotBeNull();
    }

    [Fact]
    public async Task A_backup_waits_for_whoever_has_the_database_for_a_moment()
    {
        var folder = Directory.CreateDirectory(Path.Combine(_folder, "busy")).FullName;
        var database = Path.Combine(folder, BackupFile.DatabaseName);
        StoreSetup.Copy(Path.Combine(_court.Folder, BackupFile.DatabaseName), database);
        await using var other = new SqliteConnection($"Data Source={database};Pooling=False");
        await other.OpenAsync();
        await using var command = other.CreateCommand();
        command.CommandText = "begin exclusive";
        await command.ExecuteNonQueryAsync();
        var target = Path.Combine(folder, "a.zip");
        var backup = Task.Run(() => BackupFile.Write(folder, target, DateTimeOffset.UtcNow));
        await Task.Delay(600);
        backup.IsCompleted.ShouldBeFalse("it waits");
        command.CommandText = "rollback";
        await command.ExecuteNonQueryAsync();
        (await backup).Size.ShouldBeGreaterThan(0);
        BackupFile.Restore(target, Path.Combine(_folder, "busy-back")).Files.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task What_is_no_backup_or_damaged_or_newer_is_refused_in_a_sentence_and_leaves_nothing()
    {
        var good = Path.Combine(_folder, "good.zip");
        BackupFile.Write(_court.Folder, good, DateTimeOffset.UtcNow);
        string Altered(string name, Action<ZipArchive> how)
        {
            var file = Path.Combine(_folder, name);
            File.Copy(good, file);
            using var zip = ZipFile.Open(file, ZipArchiveMode.Update);
            how(zip);
            return file;
        }
        void Rewrite(ZipArchive zip, string entry, Func<string, string> how)
        {
            string text;
            using (var reader = new StreamReader(zip.GetEntry(entry)!.Open())) text = reader.ReadToEnd();
            zip.GetEntry(entry)!.Delete();
            using var writer = new StreamWriter(zip.CreateEntry(entry).Open());
            writer.Write(how(text));
        }
        File.WriteAllText(Path.Combine(_folder, "text.zip"), "not a zip file");
        File.WriteAllBytes(Path.Combine(_folder, "half.zip"), File.ReadAllBytes(good)[..5_000]);
        await using (var newer = new SqliteConnection($"Data Source={Path.Combine(_court.Folder, BackupFile.DatabaseName)};Pooling=False"))
        {
            await newer.OpenAsync();
            await using var command = newer.CreateCommand();
            command.CommandText = "insert into __EFMigrationsHistory values ('29991231000000_Later', '99.0.0')";
            await command.ExecuteNonQueryAsync();
            BackupFile.Write(_court.Folder, Path.Combine(_folder, "newer.zip"), DateTimeOffset.UtcNow);
            command.CommandText = "delete from __EFMigrationsHistory where MigrationId like '2999%'";
            await command.ExecuteNonQueryAsync();
        }
        (string File, string Says)[] bad =
        [
            ("missing.zip", "no file"), ("text.zip", "no backup"), ("half.zip", "no backup"),
            (Altered("key.zip", zip =>
                Rewrite(zip, zip.Entries.First(entry => entry.FullName.StartsWith("keys/", StringComparison.Ordinal)).FullName, text =>
                text + " ")), "is damaged"),
            (Altered("manifest.zip", zip => zip.GetEntry("manifest.json")!.Delete()), "no backup"),
            (Altered("slip.zip", zip =>
                Rewrite(zip, "manifest.json", text =>
                text.Replace("\"name\":\"keys/", "\"name\":\"keys/../../", StringComparison.Ordinal))), "no backup"),
            (Altered("absolute.zip", zip =>
                Rewrite(zip, "manifest.json", text =>
                text.Replace("\"hold-court.db\"", "\"/tmp/hold-court.db\"", StringComparison.Ordinal))), "no backup"),
            ("newer.zip", "newer version")
        ];
        foreach (var (file, says) in bad)
        {
            var target = Path.Combine(_folder, "target");
            Should.Throw<BackupException>(() => BackupFile.Restore(Path.Combine(_folder, file), target)).Message.ShouldContain(says,
                Case.Insensitive, file);
            Directory.Exists(target).ShouldBeFalse(file);
            Directory.Exists(target + ".partial").ShouldBeFalse(file);
        }
        // A disk that takes no more than a few blocks.
        var full = await Run("trap '' XFSZ; ulimit -f 200; DOTNET_EnableWriteXorExecute=0", "backup",
            Path.Combine(_folder, "full", "a.zip"), "--Data:Folder", _court.Folder);
        full.ShouldSatisfyAllConditions(answer => answer.Code.ShouldBe(1, full.Said), answer =>
            answer.Said.ShouldContain("Nothing was left there"));
        Directory.GetFiles(Path.Combine(_folder, "full")).ShouldBeEmpty();
        (await Run("", "backup", "--Data:Folder", _court.Folder)).Code.ShouldBe(2);
        (await Run("", "backup", Path.Combine(_folder, "x.zip"), "--Data:Folder", Path.Combine(_folder, "nowhere"))).Said.ShouldContain(
            "There is no database");
        (await _court.Host()).ShouldNotBeNull();
    }

    /// <summary>A sitting in which people write; adjourned.</summary>
    private async Task<OpenedSitting> Held(Visitor host, string name, string words)
    {
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Held"));
        await using var live = await host.Announces(opened, "Odalys");
        using var guest = _court.Visitor();
        await using var other = await guest.Announces(opened, name);
        await live.Done(new Admit([other.Me!.Seat]));
        await Eventually.Holds(() => other.Me!.Place == Place.Seated);
        await other.Done(new Write(new Recipient(Reach.Everyone), words));
        await live.Done(new Write(new Recipient(Reach.Everyone), $"Thank you, {name}."));
        await live.Done(new Rename(other.Me.Seat, $"{name} (east)"));
        await live.Done(new Adjourn());
        return opened;
    }

    [Fact]
    public async Task Erasing_somebody_leaves_no_trace_in_the_file_and_ledgers_that_verify_by_the_same_digests()
    {
        const string Name = "Tiberiusz Quokkamann", Address = "tiberiusz@larkmoor.example.org", Words = "my telephone is 0 49 zwiebelfisch";
        using var host = await _court.Host();
        await host.Does(HttpMethod.Post, "/api/contacts", new ContactRow(0, Name, Address, null, ["wardens"]));
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("With him"));
        var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { Line(Name, Address), Line("Jun Takeda", "jun@larkmoor.example.org") });
        await host.Does(HttpMethod.Post, $"/api/plans/{kept.Id}/invite", new InviteWish([.. sheet.Lines.Select(line => line.Id!.Value)]));
        var held = await Held(host, Name, Words);
        var reader = _court.Services.GetRequiredService<EntryReader>();
        var before = await reader.Read(held.Sitting);

        (await host.Refused(HttpMethod.Post, "/api/house/erase", new EraseWish(" ", ""))).ShouldBe("eraseNobody");
        var traces = await host.Post<TracesRow>("/api/house/erase/look", new EraseWish(null, Address));
        traces.ShouldSatisfyAllConditions(found => found.Names.ShouldBe([Name]), found => found.Contacts.ShouldBe(1), found =>
            found.Lines.ShouldBe(1), found => found.Messages.ShouldBe(1), found => found.Sittings.ShouldBe(1));
        (await reader.Read(held.Sitting)).Select(entry => entry.Json)
            .ShouldBe(before.Select(entry => entry.Json), "looking erases nothing");
        await host.Post<TracesRow>("/api/house/erase", new EraseWish(null, Address));

        var after = await reader.Read(held.Sitting);
        Chain.FirstBreak(after).ShouldBeNull();
        after.Select(entry => Convert.ToHexString(entry.Digest)).ShouldBe(before.Select(entry => Convert.ToHexString(entry.Digest)));
        after.Count(entry => entry.Seal is not null).ShouldBeInRange(3, 6);
        after.Zip(before).ShouldAllBe(pair => pair.First.Seal != null || pair.First.Json == pair.Second.Json);
        Chain.FirstBreak(after.Select(entry => entry.Seal is null
            ? entry
            : entry with { Json = entry.Json.Replace("Erased person", "Somebody else", StringComparison.Ordinal) }))
            .ShouldNotBeNull("what stands there now is sealed, too");
        Chain.FirstBreak(after.Select(entry => entry with { Seal = null })).ShouldNotBeNull();
        (await host.Get<DocketPage>($"/api/plans/{kept.Id}/docket")).Lines.Select(line => line.Name)
            .ShouldBe(["Erased person", "Jun Takeda"]);
        (await host.Get<List<OutboxRow>>("/api/outbox")).ShouldContain(row => row.To.Contains("jun@"));
        (await host.Post<TracesRow>("/api/house/erase/look", new EraseWish(Name, Address)))
            .ShouldSatisfyAllConditions(found => found.Contacts.ShouldBe(0), found => found.Sittings.ShouldBe(0));
        await _court.Stop();
        var bytes = string.Concat(Directory.GetFiles(_court.Folder, "hold-court.db*")
            .Select(file => Encoding.UTF8.GetString(File.ReadAllBytes(file))));
        foreach (var trace in new[] { "Quokkamann", "tiberiusz@", "zwiebelfisch" })
            bytes.Contains(trace, StringComparison.OrdinalIgnoreCase).ShouldBeFalse(trace);
        await _court.Restart();
    }

    /// <summary>Seen: what somebody had brought stayed, with its name, when the person was erased, and whole files of ended sittings for
    /// ever.</summary>
    [Fact]
    public async Task Files_go_with_whoever_brought_them_and_with_the_sitting_and_a_sweep_finds_what_nothing_owns()
    {
        using var host = await _court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Files"));
        await using var bench = await host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        await bench.Done(new SetOrder(Order.HandOut, Audience.Everyone));
        using var visitor = _court.Visitor();
        await using var guest = await visitor.Announces(opened, "Tiberiusz Quokkamann");
        var files = _court.Services.GetRequiredService<KeptFiles>();
        var brought = (await files.Put(opened.Sitting, guest.Me!.Seat, "zwiebelfisch.txt", "of the guest"u8.ToArray())).File!;
        var kept = (await files.Put(opened.Sitting, bench.Me!.Seat, "plan.txt", "of the bench"u8.ToArray())).File!;
        (await visitor.Post($"/api/sittings/{opened.Sitting}/handouts", new HandoutWish(brought.Id, null, false)))
            .EnsureSuccessStatusCode();
        await bench.Done(new Adjourn());
        (await host.Post<TracesRow>("/api/house/erase/look", new EraseWish("Tiberiusz Quokkamann", null))).Files.ShouldBe(1);
        await host.Post<TracesRow>("/api/house/erase", new EraseWish("Tiberiusz Quokkamann", null));
        File.Exists(files.PathOf(brought.Id)).ShouldBeFalse();
        File.Exists(files.PathOf(kept.Id)).ShouldBeTrue("somebody else's");
        (await _court.Services.GetRequiredService<EntryReader>().Read(opened.Sitting))
            .ShouldNotContain(entry => entry.Json.Contains("zwiebelfisch", StringComparison.Ordinal));

        string Orphan(string path, bool folder = false)
        {
            var whole = Path.Combine(_court.Folder, path);
            Directory.CreateDirectory(folder ? whole : Path.GetDirectoryName(whole)!);
            if (!folder) File.WriteAllText(whole, "nobody's");
            foreach (var one in new[] { whole, Path.GetDirectoryName(whole)! })
                Directory.SetLastWriteTimeUtc(one, DateTime.UtcNow.AddDays(-3));
            return whole;
        }
        string[] orphans =
        [
            Orphan($"files/{Guid.NewGuid():N}"), Orphan($"pages/{Guid.NewGuid():N}/1-160"),
            Orphan($"pages/{kept.Id:N}/1-160.{Guid.NewGuid():N}"), Orphan($"recordings/{Guid.NewGuid():N}/1/tracks", folder: true),
            Orphan($"recordings/{opened.Sitting:N}/7", folder: true)
        ];
        var alien = Orphan("notes-of-the-operator.txt");
        _court.Time.Forward(TimeSpan.FromHours(2));
        await _court.Services.GetRequiredService<Rounds>().LetGo(default);
        foreach (var orphan in orphans) (File.Exists(orphan) || Directory.Exists(orphan)).ShouldBeFalse(orphan);
        File.Exists(alien).ShouldBeTrue("what is none of ours is left alone");
        File.Exists(files.PathOf(kept.Id)).ShouldBeFalse("nobody can fetch it any more");
    }

    [Fact]
    public async Task Nothing_goes_by_age_until_it_is_wished_and_then_chats_lose_their_words_and_sittings_go_whole()
    {
        using var host = await _court.Host();
        var held = await Held(host, "Nia Okafor", "forgettable words");
        var rounds = _court.Services.GetRequiredService<Rounds>();
        var options = _court.Services.GetRequiredService<IOptions<RetentionOptions>>().Value;
        var reader = _court.Services.GetRequiredService<EntryReader>();
        var before = await reader.Read(held.Sitting);
        _court.Time.Forward(TimeSpan.FromDays(40));
        await rounds.LetGo(default);
        (await reader.Read(held.Sitting)).Select(entry => entry.Json).ShouldBe(before.Select(entry => entry.Json));
        options.ChatsDays = 30;
        await rounds.LetGo(default);
        var after = await reader.Read(held.Sitting);
        Chain.FirstBreak(after).ShouldBeNull();
        string.Concat(after.Select(entry => entry.Json))
            .ShouldSatisfyAllConditions(all => all.ShouldNotContain("forgettable"), all => all.ShouldNotContain("Thank you"), all =>
            all.ShouldContain("Nia Okafor"));
        (options.SittingsDays, options.MessagesDays) = (30, 30);
        await rounds.LetGo(default);
        (await reader.Read(held.Sitting)).ShouldBeEmpty();
        options.ChatsDays = options.SittingsDays = options.MessagesDays = null;
    }

    [Fact]
    public async Task The_keeper_sees_how_the_house_is_and_backups_are_made_by_themselves_and_counted()
    {
        using var host = await _court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Seen by the keeper"));
        await using var live = await host.Announces(opened, "Odalys");
        (await host.Get<HousePage>("/api/house/state")).ShouldSatisfyAllConditions(
            page => page.Sittings.Single()
                .ShouldSatisfyAllConditions(one => one.Title.ShouldBe("Seen by the keeper"), one => one.Seated.ShouldBe(1), one =>
                one.Owner.ShouldBe("Odalys Brandt")),
            page => page.Lines.ShouldBe(1), page => page.DiskFree.ShouldBeGreaterThan(0), page =>
                page.BackupAt.ShouldBeNull(), page => page.MakesBackups.ShouldBeFalse(), page => page.Version.ShouldNotBeEmpty());
        (await host.Refused(HttpMethod.Post, "/api/house/backup")).ShouldBe("noBackupFolder");
        var options = _court.Services.GetRequiredService<IOptions<BackupOptions>>().Value;
        (options.Folder, options.Keep) = (Path.Combine(_folder, "by-itself"), 2);
        for (var n = 0; n < 4; n++)
        {
            (await host.Post("/api/house/backup")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
            _court.Time.Forward(TimeSpan.FromSeconds(90));
        }
        Directory.GetFiles(options.Folder).Length.ShouldBe(2);
        (await host.Get<HousePage>("/api/house/state")).BackupAt.ShouldNotBeNull();
        File.WriteAllText(Path.Combine(_folder, "a file"), "");
        options.Folder = Path.Combine(_folder, "a file", "below");
        (await host.Refused(HttpMethod.Post, "/api/house/backup")).ShouldBe("backupFailed");
        (await host.Get<HousePage>("/api/house/state")).BackupFailure.ShouldNotBeNull();
    }
}
