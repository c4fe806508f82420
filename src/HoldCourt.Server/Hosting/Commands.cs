using System.Globalization;
using HoldCourt.Server.Accounts;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Ledger;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Hosting;

/// <summary>What is done from the machine's own command line, beside the server that runs or without it.</summary>
internal static class Commands
{
    /// <returns>The exit code; null when it is none of these, and the server is to start.</returns>
    public static async Task<int?> Run(string[] all)
    {
        // A path that begins with a slash would be taken for the name of a setting.
        var (words, args) = (all.TakeWhile(word => !word.StartsWith("--", StringComparison.Ordinal)).ToArray(),
            all.SkipWhile(word => !word.StartsWith("--", StringComparison.Ordinal)).ToArray());
        var folder = CourtHost.FolderOf(args);
        try
        {
            switch (words)
            {
                case ["backup", { Length: > 0 } file]:
                    var made = BackupFile.Write(folder, file, DateTimeOffset.UtcNow);
                    Console.WriteLine(string.Create(CultureInfo.InvariantCulture,
                        $"Backed up to {made.File}: {made.Size / 1024.0 / 1024.0:F1} MB. Whoever has this file has all that is in it."));
                    return 0;
                case ["restore", { Length: > 0 } file]:
                    var manifest = BackupFile.Restore(file, folder);
                    Console.WriteLine(string.Create(CultureInfo.InvariantCulture,
                        $"Put back into {folder}: the backup of {manifest.Made:yyyy-MM-dd HH:mm} UTC, made by version "
                            + $"{manifest.Version}."));
                    await using (var app = CourtHost.Build(args)) return await LedgerCheck.Run(
                        app.Services.GetRequiredService<EntryReader>(), app.Services);
                case ["backup" or "restore", ..]:
                    await Console.Error.WriteLineAsync($"Say which file: {words[0]} FILE --Data:Folder FOLDER");
                    return 2;
                case ["ledger", "verify"]:
                    CourtHost.Check(args);
                    await using (var app = CourtHost.Build(args)) return await LedgerCheck.Run(
                        app.Services.GetRequiredService<EntryReader>(), app.Services);
                case ["account", "reset", { Length: > 0 } email]:
                    CourtHost.Check(args);
                    await using (var app = CourtHost.Build(args)) return await ResetLink(app.Services, email);
                case ["account", "second-off", { Length: > 0 } email]:
                    CourtHost.Check(args);
                    await using (var app = CourtHost.Build(args)) return await SecondOff(app.Services, email);
                case []:
                    return null;
                default:
                    await Console.Error.WriteLineAsync(
                        $"There is no command {string.Join(' ', words)}. There are: backup FILE, restore FILE, ledger verify, account "
                            + "reset ADDRESS, account second-off ADDRESS.");
                    return 2;
            }
        }
        catch (BackupException failure)
        {
            await Console.Error.WriteLineAsync(failure.Message);
            return 1;
        }
    }

    /// <summary>For whoever has the machine: a keeper who has lost the device and the recovery codes gets in by the password.</summary>
    private static async Task<int> SecondOff(IServiceProvider services, string email)
    {
        await StoreSetup.Migrate(services);
        await using var scope = services.CreateAsyncScope();
        if (await scope.ServiceProvider.GetRequiredService<UserManager<Account>>().FindByEmailAsync(email) is not { } account)
        {
            await Console.Error.WriteLineAsync($"Nobody has an account with {email}.");
            return 1;
        }
        await scope.ServiceProvider.GetRequiredService<Keeping>().TurnSecondOff(account);
        Console.WriteLine($"Signing in as {email} asks for no code any more.");
        return 0;
    }

    /// <summary>For whoever has the machine: a link for a new password, as the message about a forgotten one has it.</summary>
    private static async Task<int> ResetLink(IServiceProvider services, string email)
    {
        await StoreSetup.Migrate(services);
        await using var scope = services.CreateAsyncScope();
        var users = scope.ServiceProvider.GetRequiredService<UserManager<Account>>();
        if (await users.FindByEmailAsync(email) is not { } account)
        {
            await Console.Error.WriteLineAsync($"Nobody has an account with {email}.");
            return 1;
        }
        Console.WriteLine($"Open this at the server's address within {AccountsSetup.LinksHold.TotalHours} hours: "
            + $"{await Letters.ResetLink(users, account)}");
        return 0;
    }
}
