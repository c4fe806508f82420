using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Recording;

/// <summary>What the command line understands of this topic.</summary>
internal static class RecordingPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<StartRecording>("record", "nagrywaj", (_, _) => new StartRecording()),
        Say<PauseRecording>("pause the recording", "wstrzymaj nagranie", (_, _) => new PauseRecording()),
        Say<ResumeRecording>("go on with the recording", "wznów nagranie", (_, _) => new ResumeRecording()),
        Say<StopRecording>("stop the recording", "zakończ nagranie", (_, _) => new StopRecording()),
        Say<SetRecordingRules>("film {framing}", "obraz filmu {framing}",
            (s, a) => new SetRecordingRules(s.Sitting.RecordingRules with { Framing = (Framing)a[0] })),
        Say<SetRecordingRules>("recording for {watchers}", "nagranie dla {watchers}",
            (s, a) => new SetRecordingRules(s.Sitting.RecordingRules with { Watchers = (Watchers)a[0] })),
        Say<SetRecordingRules>("ask before recording", "pytaj o zgodę na nagranie",
            (s, _) => new SetRecordingRules(s.Sitting.RecordingRules with { AsksConsent = true })),
        Say<SetRecordingRules>("tell of the recording", "uprzedzaj o nagraniu",
            (s, _) => new SetRecordingRules(s.Sitting.RecordingRules with { AsksConsent = false })),
        Say<BeginOwnRecording>("record on my machine", "nagrywaj u mnie", (_, _) => new BeginOwnRecording()),
        Say<EndOwnRecording>("stop recording on my machine", "zakończ nagrywanie u mnie", (_, _) => new EndOwnRecording()),
        Say<AnswerRecording>("i agree to be recorded", "zgadzam się na nagranie", (_, _) => new AnswerRecording(RecordingAnswer.Agreed)),
        Say<AnswerRecording>("leave me out of the recording", "nie nagrywaj mnie",
            (_, _) => new AnswerRecording(RecordingAnswer.Unrecorded)),
        Say<AnswerRecording>("take me out of the recording", "usuń mnie z nagrania",
            (_, _) => new AnswerRecording(RecordingAnswer.Unrecorded, Whole: true))
    ],
    [
        Choose("framing",
            ("even", "równo", Framing.Even),
            ("lead", "prowadzący", Framing.Lead),
            ("exhibit", "pokaz", Framing.Exhibit),
            ("sound only", "tylko dźwięk", Framing.Sound)),
        Choose("watchers",
            ("the bench", "prezydium", Watchers.Bench),
            ("those present", "obecnych", Watchers.Present),
            ("those invited", "zaproszonych", Watchers.Invited))
    ]);
}
