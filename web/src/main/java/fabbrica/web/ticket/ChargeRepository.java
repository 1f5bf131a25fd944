package fabbrica.web.ticket;

import fabbrica.core.estimate.Tariff;
import fabbrica.core.units.Money;
import java.time.Instant;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.ObjectMapper;

/** The SQL of what tickets cost. */
@Repository
class ChargeRepository {

    private static final TypeReference<List<Tariff.Item>> ITEMS = new TypeReference<>() { };

    private final JdbcClient jdbc;
    private final ObjectMapper json;

    ChargeRepository(JdbcClient jdbc, ObjectMapper json) {
        this.jdbc = jdbc;
        this.json = json;
    }

    void price(long ticket, Tariff.Quote quote) {
        jdbc.sql("""
                insert into charge (ticket_id, currency, price_minor, vat_minor, items) values (?, ?, ?, ?, ?)
                on conflict (ticket_id) do update set currency = excluded.currency, price_minor = excluded.price_minor, vat_minor = excluded.vat_minor,
                    items = excluded.items where paid_at is null""")
                .params(ticket, quote.total().currency().getCurrencyCode(), quote.total().coins(), quote.vatIncluded().coins(), json.writeValueAsString(quote.items()))
                .update();
    }

    void ask(long ticket, Money price) {
        jdbc.sql("""
                insert into charge (ticket_id, currency, asked_minor) values (?, ?, ?)
                on conflict (ticket_id) do update set currency = excluded.currency, asked_minor = excluded.asked_minor""")
                .params(ticket, price.currency().getCurrencyCode(), price.coins()).update();
    }

    void agree(long ticket) {
        jdbc.sql("update charge set agreed_minor = asked_minor where ticket_id = ?").params(ticket).update();
    }

    /** Numbers of receipts follow one another without gaps. */
    void pay(long ticket, Instant at) {
        jdbc.sql("update charge set paid_at = ?, receipt = (select coalesce(max(receipt), 0) + 1 from charge) where ticket_id = ? and paid_at is null")
                .params(at.toEpochMilli(), ticket).update();
    }

    Optional<Tariff.Quote> quote(long ticket) {
        return jdbc.sql("select * from charge where ticket_id = ? and price_minor is not null").params(ticket).query((row, n) -> {
            Currency currency = Currency.getInstance(row.getString("currency"));
            return new Tariff.Quote(json.readValue(row.getString("items"), ITEMS), Money.ofCoins(row.getLong("price_minor"), currency),
                    Money.ofCoins(row.getLong("vat_minor"), currency));
        }).optional();
    }

    List<Long> unpaid() {
        return jdbc.sql("""
                select c.ticket_id from charge c join ticket t on t.id = c.ticket_id
                where c.paid_at is null and c.price_minor > 0 and t.state in ('PRINTED', 'HANDED_OUT') order by c.ticket_id""").query(Long.class).list();
    }

    /** What is to be paid for what is printed, by currency. */
    List<Money> due() {
        return sums(jdbc.sql("""
                select c.currency, sum(c.price_minor) as coins from charge c join ticket t on t.id = c.ticket_id
                where c.paid_at is null and c.price_minor > 0 and t.state in ('PRINTED', 'HANDED_OUT') group by c.currency order by c.currency"""));
    }

    /** What was paid from one moment until another, by currency. */
    List<Money> paid(Instant from, Instant to) {
        return sums(jdbc.sql("select currency, sum(price_minor) as coins from charge where paid_at >= ? and paid_at < ? group by currency order by currency")
                .params(from.toEpochMilli(), to.toEpochMilli()));
    }

    private static List<Money> sums(JdbcClient.StatementSpec sums) {
        return sums.query((row, n) -> Money.ofCoins(row.getLong("coins"), Currency.getInstance(row.getString("currency")))).list();
    }
}
