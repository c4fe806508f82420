namespace HoldCourt.Core.Docket;

/// <summary>
/// The best one-to-one choice over all at once: the Hungarian method with potentials (Kuhn 1955; Jonker and Volgenant
/// 1987), run on each connected part by itself, since few people share a candidate.
/// </summary>
internal static class Assignment
{
    /// <summary>Larger parts are settled greedily, best pair first.</summary>
    private const int LargestPiece = 250;

    /// <summary>For each row the chosen column of its candidates, or null when it is better left out.</summary>
    /// <param name="rows">Each row's candidate columns with their worth, above 0.</param>
    public static int?[] Best(IReadOnlyList<IReadOnlyList<(int Column, double Worth)>> rows)
    {
        var chosen = new int?[rows.Count];
        foreach (var part in Pieces(rows))
        {
            if (part.Count == 1) chosen[part[0]] = rows[part[0]].Count == 0 ? null : rows[part[0]].MaxBy(pair => pair.Worth).Column;
            else if (part.Count > LargestPiece) Greedily(rows, part, chosen);
            else Exactly(rows, part, chosen);
        }
        return chosen;
    }

    private static List<List<int>> Pieces(IReadOnlyList<IReadOnlyList<(int Column, double Worth)>> rows)
    {
        var parent = Enumerable.Range(0, rows.Count).ToArray();
        int Root(int at) => parent[at] == at ? at : parent[at] = Root(parent[at]);
        var firstOf = new Dictionary<int, int>();
        for (var row = 0; row < rows.Count; row++)
            foreach (var (column, _) in rows[row])
                if (!firstOf.TryAdd(column, row)) parent[Root(row)] = Root(firstOf[column]);
        return [.. Enumerable.Range(0, rows.Count).GroupBy(Root).Select(part => part.ToList())];
    }

    private static void Greedily(IReadOnlyList<IReadOnlyList<(int Column, double Worth)>> rows, List<int> part, int?[] chosen)
    {
        var taken = new HashSet<int>();
        foreach (var (row, column, _) in part.SelectMany(row => rows[row].Select(pair => (row, pair.Column, pair.Worth)))
            .OrderByDescending(pair => pair.Worth))
            if (chosen[row] is null && taken.Add(column)) chosen[row] = column;
    }

    private static void Exactly(IReadOnlyList<IReadOnlyList<(int Column, double Worth)>> rows, List<int> part, int?[] chosen)
    {
        // Each row may also stay alone: one private column of worth 0 for each.
        var columns = part.SelectMany(row => rows[row].Select(pair => pair.Column)).Distinct().ToList();
        var place = columns.Select((column, index) => (column, index)).ToDictionary(pair => pair.column, pair => pair.index);
        var (n, m) = (part.Count, columns.Count + part.Count);
        var cost = new double[n, m];
        for (var i = 0; i < n; i++)
        {
            for (var j = 0; j < m; j++) cost[i, j] = j == columns.Count + i ? 0 : 1;
            foreach (var (column, worth) in rows[part[i]]) cost[i, place[column]] = -worth;
        }
        var (u, v, owner) = (new double[n + 1], new double[m + 1], new int[m + 1]);
        var way = new int[m + 1];
        for (var i = 1; i <= n; i++)
        {
            owner[0] = i;
            var at = 0;
            var least = Enumerable.Repeat(double.PositiveInfinity, m + 1).ToArray();
            var used = new bool[m + 1];
            do
            {
                used[at] = true;
                var (row, delta, next) = (owner[at], double.PositiveInfinity, 0);
                for (var j = 1; j <= m; j++)
                {
                    if (used[j]) continue;
                    var reduced = cost[row - 1, j - 1] - u[row] - v[j];
                    if (reduced < least[j]) (least[j], way[j]) = (reduced, at);
                    if (least[j] < delta) (delta, next) = (least[j], j);
                }
                for (var j = 0; j <= m; j++)
                {
                    if (used[j]) (u[owner[j]], v[j]) = (u[owner[j]] + delta, v[j] - delta);
                    else least[j] -= delta;
                }
                at = next;
            }
            while (owner[at] != 0);
            for (; at != 0; at = way[at]) owner[at] = owner[way[at]];
        }
        for (var j = 1; j <= columns.Count; j++)
            if (owner[j] > 0 && cost[owner[j] - 1, j - 1] < 0) chosen[part[owner[j] - 1]] = columns[j - 1];
    }
}
