package fabbrica.web.account;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetails;
import org.springframework.stereotype.Repository;

/** The SQL of accounts, members and badges. */
@Repository
class AccountRepository {

    private static final String MEMBERS = """
            select *, (select group_concat(printer_id) from badge b where b.member_id = member.id) as badges from member""";

    private final JdbcClient jdbc;

    AccountRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    boolean hasAccounts() {
        return jdbc.sql("select count(*) from account").query(Integer.class).single() > 0;
    }

    long insertAccount(String username, String passwordHash, Role role, String name, @Nullable Long memberId) {
        return jdbc.sql("insert into account (username, password, role, name, member_id) values (?, ?, ?, ?, ?) returning id")
                .params(Arrays.asList(username, passwordHash, role.name(), name, memberId)).query(Long.class).single();
    }

    Optional<UserDetails> account(String username) {
        return jdbc.sql("select * from account where username = ? collate nocase").params(username)
                .query((row, n) -> User.withUsername(row.getString("username")).password(row.getString("password"))
                        .roles(row.getString("role")).disabled(row.getBoolean("closed")).build()).optional();
    }

    List<Account> accounts() {
        return jdbc.sql("""
                select a.*, coalesce(m.name, '') as member_name from account a left join member m on m.id = a.member_id
                order by a.closed, a.username collate nocase""").query((row, n) -> new Account(row.getLong("id"),
                row.getString("username"), Role.valueOf(row.getString("role")), row.getObject("member_id") == null ? null : row.getLong("member_id"),
                row.getString("member_name"), row.getBoolean("closed"))).list();
    }

    int openCoordinators() {
        return jdbc.sql("select count(*) from account where role = 'COORDINATOR' and not closed").query(Integer.class).single();
    }

    void savePassword(String username, String passwordHash) {
        jdbc.sql("update account set password = ? where username = ? collate nocase").params(passwordHash, username).update();
    }

    /** Sets a password in place of a code; tells whether the code was still there. */
    boolean useCode(String username, String codeHash, String passwordHash) {
        return jdbc.sql("""
                update account set password = ?, code = null, code_until = null where username = ? collate nocase and code = ?""")
                .params(passwordHash, username, codeHash).update() == 1;
    }

    void saveCode(long id, String passwordHash, String codeHash, Instant until) {
        jdbc.sql("update account set password = ?, code = ?, code_until = ? where id = ?")
                .params(passwordHash, codeHash, until.toEpochMilli(), id).update();
    }

    /** The hash of an open account's code while it holds. */
    Optional<String> code(String username, Instant now) {
        return jdbc.sql("select code from account where username = ? collate nocase and not closed and code_until > ?")
                .params(username, now.toEpochMilli()).query(String.class).optional();
    }

    void saveClosed(long id, boolean closed) {
        jdbc.sql("update account set closed = ? where id = ?").params(closed, id).update();
    }

    Optional<String> secret() {
        return jdbc.sql("select value from secret").query(String.class).optional();
    }

    void insertSecret(String value) {
        jdbc.sql("insert into secret (id, value) values (1, ?)").params(value).update();
    }

    Optional<Long> memberOf(String username) {
        return jdbc.sql("select member_id from account where username = ? collate nocase and member_id is not null")
                .params(username).query(Long.class).optional();
    }

    List<Member> members(String search) {
        return jdbc.sql(MEMBERS + " where forgotten_at is null and name like ? escape '\\' order by name collate nocase limit 200")
                .params("%" + search.replaceAll("([%_\\\\])", "\\\\$1") + "%").query(AccountRepository::readMember).list();
    }

    List<Member> known() {
        return jdbc.sql(MEMBERS + " where forgotten_at is null order by name collate nocase").query(AccountRepository::readMember).list();
    }

    /** Hands tickets and accounts over to another member. */
    void hand(long from, long to) {
        jdbc.sql("update ticket set member_id = ? where member_id = ?").params(to, from).update();
        jdbc.sql("update account set member_id = ? where member_id = ?").params(to, from).update();
    }

    /** Only of one to whom nothing belongs any more. */
    void delete(long id) {
        jdbc.sql("delete from badge where member_id = ?").params(id).update();
        jdbc.sql("delete from member where id = ?").params(id).update();
    }

    Optional<Member> memberNamed(String name) {
        return jdbc.sql(MEMBERS + " where forgotten_at is null and name = ? collate nocase order by id limit 1").params(name)
                .query(AccountRepository::readMember).optional();
    }

    List<Member> members(Collection<Long> ids) {
        return jdbc.sql(MEMBERS + " where id in (:ids)").param("ids", ids).query(AccountRepository::readMember).list();
    }

    Optional<Member> member(long id) {
        return jdbc.sql(MEMBERS + " where id = ?").params(id).query(AccountRepository::readMember).optional();
    }

    long insert(Member member, Instant since) {
        long id = jdbc.sql("insert into member (name, minor, grown_up, note, class, email, grown_up_email, since) values (?, ?, ?, ?, ?, ?, ?, ?) returning id")
                .params(member.name(), member.minor(), member.grownUp(), member.note(), member.memberClass(), member.mail().own(),
                        member.mail().grownUp(), since.toEpochMilli())
                .query(Long.class).single();
        insertBadges(id, member);
        return id;
    }

    void update(Member member) {
        jdbc.sql("update member set name = ?, minor = ?, grown_up = ?, note = ?, class = ?, email = ?, grown_up_email = ? where id = ?")
                .params(member.name(), member.minor(), member.grownUp(), member.note(), member.memberClass(), member.mail().own(),
                        member.mail().grownUp(), member.id()).update();
        jdbc.sql("delete from badge where member_id = ?").params(member.id()).update();
        insertBadges(member.id(), member);
    }

    /** Leaves the number, and what counts are made by. */
    void forget(long id, String name, Instant at) {
        jdbc.sql("update member set name = ?, grown_up = '', note = '', email = '', grown_up_email = '', forgotten_at = ? where id = ?").params(name, at.toEpochMilli(), id)
                .update();
        jdbc.sql("delete from badge where member_id = ?").params(id).update();
    }

    List<Account> accountsOf(long memberId) {
        return accounts().stream().filter(account -> Objects.equals(account.memberId(), memberId)).toList();
    }

    void forgetAccount(long id, String username) {
        jdbc.sql("update account set username = ?, name = ?, password = ?, closed = 1, code = null, code_until = null where id = ?")
                .params(username, username, Accounts.NONE, id).update();
    }

    private void insertBadges(long id, Member member) {
        for (String printer : member.badges()) {
            jdbc.sql("insert into badge (member_id, printer_id) values (?, ?)").params(id, printer).update();
        }
    }

    private static Member readMember(ResultSet row, int number) throws SQLException {
        String badges = row.getString("badges");
        return new Member(row.getLong("id"), row.getString("name"), row.getBoolean("minor"),
                row.getString("grown_up"), row.getString("note"), row.getString("class"),
                badges == null ? new HashSet<>() : new HashSet<>(List.of(badges.split(","))),
                row.getObject("forgotten_at") != null, new Member.Mail(row.getString("email"), row.getString("grown_up_email")));
    }
}
