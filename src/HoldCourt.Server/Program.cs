using HoldCourt.Server.Contract;
using HoldCourt.Server.Hosting;
using HoldCourt.Store.Ledger;

if (args is ["contract", var file])
{
    TypeScriptContract.WriteIfChanged(file);
    return 0;
}

var app = CourtHost.Build(args);
if (args is ["ledger", "verify", ..]) return await LedgerCheck.Run(app.Services.GetRequiredService<EntryReader>(), app.Services);

await app.RunAsync();
return 0;

/// <summary>Named so that tests can start the server.</summary>
public partial class Program;
