using HoldCourt.Store;
using Microsoft.Data.Sqlite;

namespace HoldCourt.Server.Hosting;

/// <summary>Why the server cannot start, in a sentence that says what to do.</summary>
internal static class StartFailure
{
    /// <summary>What is wrong with a disk, in a sentence.</summary>
    public static string Reason(Exception failure) => failure switch
    {
        SqliteException { SqliteErrorCode: 13 } => "the disk is full.",
        SqliteException { SqliteErrorCode: 5 or 6 } => "the database is locked by another program.",
        SqliteException { SqliteErrorCode: 8 or 10 or 14 } or UnauthorizedAccessException => "the folder cannot be written.",
        IOException io when io.HResult is 28 or 0x1C || io.Message.Contains("No space left", StringComparison.OrdinalIgnoreCase) =>
            "the disk is full.",
        IOException => failure.Message.TrimEnd('.') + ".",
        _ => "the disk does not work."
    };

    /// <returns>Null when it is a bug, whose trace should be seen.</returns>
    public static string? Of(Exception failure, string folder) => failure switch
    {
        SettingException => failure.Message,
        AggregateException { InnerExceptions: [var only] } => Of(only, folder),
        AggregateException several =>
            several.InnerExceptions.Select(one => Of(one, folder)).FirstOrDefault(sentence => sentence is not null),
        OtherFormException { IsNewer: false } =>
            $"The database in {folder} was written by a version of before 1 December 2026. Start a version of that day with it once, then "
                + "this one, or name another folder with --data.",
        OtherFormException =>
            $"The database in {folder} was written by a newer version of Hold Court. Start that version, or name another folder with "
                + "--data.",
        SqliteException { SqliteErrorCode: 11 or 26 } =>
            $"The database in {folder} is damaged and cannot be read. Put a backup of hold-court.db there, or name another folder with "
                + "--data.",
        SqliteException { SqliteErrorCode: 13 } => $"The disk that holds {folder} is full. Make room and start again.",
        SqliteException { SqliteErrorCode: 5 or 6 } => $"Another program uses the database in {folder}. End it and start again.",
        SqliteException { SqliteErrorCode: 8 or 10 or 14 } or UnauthorizedAccessException =>
            $"The folder {folder} cannot be written. Give this user the right to write there, or name another folder with --data.",
        IOException io when io.Message.Contains("address already in use", StringComparison.OrdinalIgnoreCase) =>
            "The port is in use already. Choose another with --port.",
        IOException io => $"The folder {folder} cannot be used: {io.Message}",
        { InnerException: { } inner } => Of(inner, folder),
        _ => null
    };
}

/// <summary>A setting that cannot be meant, in a sentence that says what it should look like.</summary>
internal sealed class SettingException(string sentence) : Exception(sentence);
