package fabbrica.web.notice;

import fabbrica.web.platform.Refusal;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.mail.MailException;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Component;

/** By mail, where the lab has named a server for it. */
@Component
@ConditionalOnProperty("spring.mail.host")
class MailChannel implements Channel {

    private final JavaMailSender post;
    private final String from;

    MailChannel(JavaMailSender post, @Value("${fabbrica.mail.from}") String from) {
        this.post = post;
        this.from = from;
    }

    @Override
    public void deliver(Notice notice) {
        SimpleMailMessage mail = new SimpleMailMessage();
        mail.setFrom(from);
        mail.setTo(notice.addresses().getFirst());
        mail.setCc(notice.addresses().stream().skip(1).toArray(String[]::new));
        mail.setSubject(notice.subject());
        mail.setText(notice.text() + "\n\n" + notice.sender());
        try {
            post.send(mail);
        } catch (MailException e) {
            throw new Refusal(String.valueOf(e.getMessage()));
        }
    }
}
