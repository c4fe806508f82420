using System.Security.Cryptography;
using HoldCourt.Server.Accounts;
using HoldCourt.Server.Api;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>A house of its own for each test, without the demo, and the people in it.</summary>
public abstract class OwnHouse : IAsyncLifetime
{
    protected const string Good = "lantern ferry heron", Other = "kettle moss quarry";
    private protected Court _court = null!;

    /// <summary>This machine counts as a proxy, so that guesses can come from many addresses.</summary>
    public async Task InitializeAsync() => _court = await Court.With("--Proxy:Known", "127.0.0.1");

    public Task DisposeAsync() => _court.DisposeAsync();

    private protected string Code => _court.Services.GetRequiredService<House>().SetUpCode!;

    private protected async Task<Visitor> Keeper()
    {
        var keeper = _court.Visitor();
        await keeper.Does(HttpMethod.Post, "/api/set-up", new SetUpWish(Code, "Ilse Vantorre", "ilse@larkmoor.example.org", Good, null));
        return keeper;
    }

    /// <summary>A host who joined by an invitation of the keeper.</summary>
    private protected async Task<Visitor> Joins(Visitor keeper, string email, string name)
    {
        var invited = await keeper.Post<InvitedHost>("/api/house/invitations", new InviteHost(email, name, ByMail: false));
        var host = _court.Visitor();
        await host.Does(HttpMethod.Post, "/api/join", new JoinWish(invited.Link!.Split('#')[1], name, Good, null));
        return host;
    }

    private protected async Task<Visitor> SignsIn(string email, string password = Good)
    {
        var visitor = _court.Visitor();
        (await visitor.Post<SignedIn>("/api/sign-in", new SignIn(email, password))).CodeNeeded.ShouldBeFalse();
        return visitor;
    }

    private protected static async Task<string> IdOf(Visitor keeper, string email) =>
        (await keeper.Get<HostsPage>("/api/house/hosts")).Hosts.Single(host => host.Email == email).Id;

    /// <summary>The link of the newest message to somebody, as the keeper reads it where there is no mail server.</summary>
    private protected static async Task<string[]> Letter(Visitor keeper, string to, string subject)
    {
        OutboxRow? row = null;
        await Eventually.Succeeds(async () =>
            (row = (await keeper.Get<List<OutboxRow>>("/api/outbox"))
            .FirstOrDefault(one => one.To.Contains(to, StringComparison.Ordinal) && one.Subject == subject)).ShouldNotBeNull());
        var link = (await keeper.Get<OutboxPage>($"/api/outbox/{row!.Id}")).Text.Split('\n').Select(line => line.Trim())
            .Single(line => line.Contains('#', StringComparison.Ordinal));
        return [.. link.Split('#')[1].Split('.').Select(Uri.UnescapeDataString)];
    }

    /// <summary>RFC 6238 with SHA-1, 6 digits and steps of 30 s, written from the RFC.</summary>
    private protected static string CodeAt(string base32, DateTimeOffset at)
    {
        const string Alphabet = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
        var bits = string.Concat(base32.Select(letter => Convert.ToString(Alphabet.IndexOf(letter, StringComparison.Ordinal), 2)
            .PadLeft(5, '0')));
        var key = Enumerable.Range(0, bits.Length / 8).Select(n => Convert.ToByte(bits.Substring(n * 8, 8), 2)).ToArray();
        var step = BitConverter.GetBytes(at.ToUnixTimeSeconds() / 30);
        Array.Reverse(step);
#pragma warning disable CA5350 // the RFC's own
        var hash = HMACSHA1.HashData(key, step);
#pragma warning restore CA5350
        var offset = hash[^1] & 0xF;
        var number = ((hash[offset] & 0x7F) << 24) | (hash[offset + 1] << 16) | (hash[offset + 2] << 8) | hash[offset + 3];
        return (number % 1_000_000).ToString("D6", System.Globalization.CultureInfo.InvariantCulture);
    }
}
