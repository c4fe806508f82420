namespace HoldCourt.Bench;

internal static class Numbers
{
    /// <param name="share">0.5 for the median, 0.99 for p99.</param>
    public static double Percentile(this IEnumerable<double> values, double share)
    {
        var sorted = values.Order().ToArray();
        return sorted.Length == 0 ? double.NaN : sorted[Math.Min(sorted.Length - 1, (int)(share * sorted.Length))];
    }

    public static void Row(string what, string figure) => Console.WriteLine($"| {what} | {figure} |");

    public static void Head(string title) => Console.WriteLine($"\n### {title}\n\n| what | figure |\n| --- | --- |");
}
