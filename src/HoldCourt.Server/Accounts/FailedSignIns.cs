using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Accounts;

/// <summary>
/// Counts wrong passwords towards the framework's lock after the answer has gone, so that an answer takes as long where there
/// is no account, and one at a time, so that none is lost.
/// </summary>
internal sealed partial class FailedSignIns(IServiceScopeFactory scopes, ILogger<FailedSignIns> log) : IDisposable
{
    private readonly SemaphoreSlim _turn = new(1);

    public void Note(string account) => _ = Task.Run(async () =>
    {
        await _turn.WaitAsync();
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            var users = scope.ServiceProvider.GetRequiredService<UserManager<Account>>();
            if (await users.FindByIdAsync(account) is { } known) await users.AccessFailedAsync(known);
        }
        catch (Exception e)
        {
            LogNotNoted(e);
        }
        finally
        {
            _turn.Release();
        }
    });

    [LoggerMessage(LogLevel.Warning, "A wrong password could not be noted")]
    private partial void LogNotNoted(Exception e);

    public void Dispose() => _turn.Dispose();
}
