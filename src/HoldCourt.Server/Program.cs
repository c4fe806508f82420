using HoldCourt.Server.Contract;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Recording.Films;

if (args is ["contract", var file])
{
    TypeScriptContract.WriteIfChanged(file);
    return 0;
}

if (args is [Composer.Command, var job]) return Composer.Run(job);

if (args is [PictureReader.Command, var picture, var width]) return PictureReader.Run(picture, width);

try
{
    if (await Commands.Run(args) is { } code) return code;
    CourtHost.Check(args);
    await using var app = CourtHost.Build(args);
    await app.RunAsync();
    return 0;
}
catch (Exception failure) when (StartFailure.Of(failure, CourtHost.FolderOf(args)) is { } sentence)
{
    await Console.Error.WriteLineAsync(sentence);
    return 1;
}

/// <summary>Named so that tests can start the server.</summary>
public partial class Program;
