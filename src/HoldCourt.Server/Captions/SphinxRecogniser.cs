using System.Runtime.InteropServices;
using System.Text.RegularExpressions;
using HoldCourt.Server.Hosting;

namespace HoldCourt.Server.Captions;

/// <summary>
/// The recogniser of Debian's packages <c>pocketsphinx</c> and <c>pocketsphinx-en-us</c>: English, offline, a rough draft. Its libraries
/// get nothing but decoded samples.
/// </summary>
internal sealed partial class SphinxRecogniser(IConfiguration configuration) : IRecogniser
{
    private readonly string _model = configuration["Captions:Model"] ?? "/usr/share/pocketsphinx/model/en-us";

    public bool IsThere => configuration.GetValue("Captions:Machine", true) && Directory.Exists(Path.Combine(_model, "en-us"))
        && Natives.IsThere(Natives.SphinxBase) && Natives.IsThere(Natives.Sphinx);

    /// <exception cref="InvalidOperationException">The model cannot be read.</exception>
    public IHearing Begin()
    {
        Natives.Use();
        return new Hearing(_model);
    }

    private sealed partial class Hearing : IHearing
    {
        /// <summary>Nobody speaks so long without a breath; what was said is told, and it goes on.</summary>
        private const int LongestSamples = IHearing.Rate * 12;

        private readonly nint _settings, _decoder;
        private bool _speaks;
        private int _samples;

        public Hearing(string model)
        {
            // Without the second passes words come within a third of a second.
            string[] settings =
            [
                "server", "-hmm", Path.Combine(model, "en-us"), "-lm", Path.Combine(model, "en-us.lm.bin"),
                "-dict", Path.Combine(model, "cmudict-en-us.dict"), "-fwdflat", "no", "-bestpath", "no", "-logfn", "/dev/null"
            ];
            var texts = settings.Select(Marshal.StringToCoTaskMemUTF8).ToArray();
            try { _settings = cmd_ln_parse_r(nint.Zero, ps_args(), texts.Length, texts, 1); }
            finally { foreach (var text in texts) Marshal.FreeCoTaskMem(text); }
            _decoder = _settings == nint.Zero ? nint.Zero : ps_init(_settings);
            if (_decoder == nint.Zero) throw new InvalidOperationException("The model of the recogniser cannot be read.");
            _ = ps_start_utt(_decoder);
        }

        public string? Take(ReadOnlySpan<short> samples)
        {
            _ = ps_process_raw(_decoder, samples, (nuint)samples.Length, 0, 0);
            _samples += samples.Length;
            var speaks = ps_get_in_speech(_decoder) != 0;
            var ends = (_speaks && !speaks) || _samples > LongestSamples;
            _speaks = speaks;
            return ends ? End() : null;
        }

        public string? End()
        {
            if (_samples == 0) return null;
            _ = ps_end_utt(_decoder);
            var text = Marshal.PtrToStringUTF8(ps_get_hyp(_decoder, out _));
            _ = ps_start_utt(_decoder);
            (_speaks, _samples) = (false, 0);
            return text is null ? null : Clean(text);
        }

        /// <summary>Without the marks of noises and of other pronunciations, as a sentence.</summary>
        private static string? Clean(string text)
        {
            var words = Marks().Replace(text, "").Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(word => word == "i" || word.StartsWith("i'", StringComparison.Ordinal) ? $"I{word[1..]}" : word).ToList();
            if (words.Count == 0) return null;
            var all = string.Join(' ', words);
            return $"{char.ToUpperInvariant(all[0])}{all[1..]}.";
        }

        [GeneratedRegex(@"\(\d+\)|<[^>]*>|\[[^\]]*\]|\+\+[^+]*\+\+")]
        private static partial Regex Marks();

        public void Dispose()
        {
            _ = ps_free(_decoder);
            _ = cmd_ln_free_r(_settings);
        }

        [LibraryImport(Natives.SphinxBase)]
        private static partial nint cmd_ln_parse_r(nint before, nint defined, int count, nint[] values, int strict);

        [LibraryImport(Natives.SphinxBase)]
        private static partial int cmd_ln_free_r(nint settings);

        [LibraryImport(Natives.Sphinx)]
        private static partial nint ps_args();

        [LibraryImport(Natives.Sphinx)]
        private static partial nint ps_init(nint settings);

        [LibraryImport(Natives.Sphinx)]
        private static partial int ps_free(nint decoder);

        [LibraryImport(Natives.Sphinx)]
        private static partial int ps_start_utt(nint decoder);

        [LibraryImport(Natives.Sphinx)]
        private static partial int ps_end_utt(nint decoder);

        [LibraryImport(Natives.Sphinx)]
        private static partial int ps_process_raw(nint decoder, ReadOnlySpan<short> samples, nuint count, int noSearch, int isWhole);

        [LibraryImport(Natives.Sphinx)]
        private static partial byte ps_get_in_speech(nint decoder);

        [LibraryImport(Natives.Sphinx)]
        private static partial nint ps_get_hyp(nint decoder, out int score);
    }
}
