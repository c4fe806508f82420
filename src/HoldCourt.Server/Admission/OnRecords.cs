namespace HoldCourt.Server.Admission;

/// <summary>Whether a session is being recorded, as it is said before anybody comes in.</summary>
public enum OnRecord { No, Told, Asked }

internal static class OnRecords
{
    public static OnRecord Of(Sitting sitting) => sitting switch
    {
        { Recorder: null or { Phase: RecordingPhase.Stopped }, OwnRecorders: [] } => OnRecord.No,
        { RecordingRules.AsksConsent: true } => OnRecord.Asked,
        _ => OnRecord.Told
    };
}
