using HoldCourt.Server.Contract;
using HoldCourt.Server.Hosting;
using HoldCourt.Store.Ledger;

if (args is ["contract", var file])
{
    TypeScriptContract.WriteIfChanged(file);
    return 0;
}

try
{
    CourtHost.Check(args);
    await using var app = CourtHost.Build(args);
    if (args is ["ledger", "verify", ..]) return await LedgerCheck.Run(app.Services.GetRequiredService<EntryReader>(), app.Services);
    await app.RunAsync();
    return 0;
}
catch (Exception failure) when (StartTrouble.Of(failure, CourtHost.FolderOf(args)) is { } sentence)
{
    await Console.Error.WriteLineAsync(sentence);
    return 1;
}

/// <summary>Named so that tests can start the server.</summary>
public partial class Program;
