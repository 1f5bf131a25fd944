package fabbrica.web;

import fabbrica.web.platform.storage.DataFolder;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.event.ApplicationEnvironmentPreparedEvent;
import org.springframework.context.ApplicationListener;
import org.springframework.context.event.ContextClosedEvent;

/** The web application; its data folder is made before the database in it is opened. */
@SpringBootApplication
public class FabbricaApplication {

    public static void main(String[] arguments) {
        SpringApplication application = new SpringApplication(FabbricaApplication.class);
        application.addListeners((ApplicationListener<ApplicationEnvironmentPreparedEvent>) event ->
                DataFolder.prepare(event.getEnvironment()));
        application.addListeners((ApplicationListener<ContextClosedEvent>) event ->
                DataFolder.letGo(DataFolder.of(event.getApplicationContext().getEnvironment())));
        application.run(arguments);
    }
}
