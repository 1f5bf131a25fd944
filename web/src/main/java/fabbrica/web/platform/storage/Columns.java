package fabbrica.web.platform.storage;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Currency;
import org.jspecify.annotations.Nullable;

/** How moments, days, numbers and money stand in columns: milliseconds since 1970, ISO days, the currency's smallest coin. */
public final class Columns {

    private Columns() {
    }

    public static @Nullable Long millis(@Nullable Instant moment) {
        return moment == null ? null : moment.toEpochMilli();
    }

    public static Instant instant(ResultSet row, String column) throws SQLException {
        return Instant.ofEpochMilli(row.getLong(column));
    }

    public static @Nullable Instant instantOrNull(ResultSet row, String column) throws SQLException {
        Long millis = longOrNull(row, column);
        return millis == null ? null : Instant.ofEpochMilli(millis);
    }

    public static @Nullable Long longOrNull(ResultSet row, String column) throws SQLException {
        long value = row.getLong(column);
        return row.wasNull() ? null : value;
    }

    public static @Nullable Double doubleOrNull(ResultSet row, String column) throws SQLException {
        double value = row.getDouble(column);
        return row.wasNull() ? null : value;
    }

    public static @Nullable LocalDate dayOrNull(ResultSet row, String column) throws SQLException {
        String day = row.getString(column);
        return day == null ? null : LocalDate.parse(day);
    }

    public static @Nullable String day(@Nullable LocalDate day) {
        return day == null ? null : day.toString();
    }

    /** An amount in coins, rounded to whole ones. */
    public static long coins(double amount, Currency currency) {
        return Math.round(amount * Math.pow(10, currency.getDefaultFractionDigits()));
    }

    public static double amount(long coins, Currency currency) {
        return coins / Math.pow(10, currency.getDefaultFractionDigits());
    }
}
