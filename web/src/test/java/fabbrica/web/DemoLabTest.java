package fabbrica.web;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.webmvc.test.autoconfigure.AutoConfigureMockMvc;
import org.springframework.context.annotation.Import;

/** Runs a test against the whole application with a fresh demo lab, shared by all tests that ask for it; it is open, and for hours. */
@Target(ElementType.TYPE)
@Retention(RetentionPolicy.RUNTIME)
@SpringBootTest(useMainMethod = SpringBootTest.UseMainMethod.ALWAYS,
        webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT,
        properties = {"fabbrica.demo=true", "fabbrica.demo.at=12:30", "fabbrica.data=target/demo-lab", "fabbrica.mail.every=1h", "fabbrica.machine.every=50ms"})
@AutoConfigureMockMvc
@Import({Steps.class, Examples.class})
public @interface DemoLabTest {
}
