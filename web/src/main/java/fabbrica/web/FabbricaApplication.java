package fabbrica.web;

import fabbrica.web.platform.storage.DataFolder;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.event.ApplicationEnvironmentPreparedEvent;
import org.springframework.context.ApplicationListener;

/** The web application; it takes its data folder before the database in it is opened. */
@SpringBootApplication
public class FabbricaApplication {

    public static void main(String[] arguments) {
        application().run(arguments);
    }

    /** The application, ready to be run. */
    public static SpringApplication application() {
        SpringApplication application = new SpringApplication(FabbricaApplication.class);
        application.addListeners((ApplicationListener<ApplicationEnvironmentPreparedEvent>) event ->
                DataFolder.prepare(event.getEnvironment()));
        return application;
    }
}
