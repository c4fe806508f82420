using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Planning;

/// <summary>An item that begins may show something which is not on the shelf: a paper of that name is brought.</summary>
internal sealed class ItemWork : TopicWork
{
    public ItemWork(NamedPapers papers)
    {
        After<NextItem>((by, _) => Bring(by));
        After<TurnToItem>((by, _) => Bring(by));

        Task Bring(Actor by)
        {
            papers.Begin(Inside, by, () => Inside.Latest.RunSheet.Now is { Shows: { Length: > 0 } title } ? [title] : [], shows: true);
            return Task.CompletedTask;
        }
    }

    public override string Name => "papers";
}
