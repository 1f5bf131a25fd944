package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import fabbrica.core.estimate.Estimate;
import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.BuiltIn;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class EstimatorTest {

    private static final Lying PART = new Lying("abc", 1, Rotation.NONE);

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Recipe RECIPE = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());

    private final Meshes meshes = mock(Meshes.class);
    private final Estimator estimator = new Estimator(meshes);

    @AfterEach
    void close() {
        estimator.close();
    }

    @Test
    void what_is_asked_for_twice_is_worked_out_once() throws InterruptedException {
        when(meshes.mesh(any(Lying.class))).thenReturn(Shapes.box(20, 20, 4));
        Standing<Estimate> first = settled(request(STANDARD));
        assertThat(first).isInstanceOf(Standing.Done.class);
        assertThat(estimator.ask(request(STANDARD))).isEqualTo(first);
        verify(meshes, times(1)).mesh(PART);
    }

    @Test
    void printers_with_one_recipe_share_the_toolpath() throws InterruptedException {
        when(meshes.mesh(any(Lying.class))).thenReturn(Shapes.box(20, 20, 4));
        settled(request(STANDARD));
        settled(request(STANDARD.with(STANDARD.kinematics().withAcceleration(300))));
        verify(meshes, times(1)).mesh(PART);
    }

    @Test
    void a_part_that_cannot_be_worked_out_is_said_and_may_be_asked_for_again() throws InterruptedException {
        when(meshes.mesh(any(Lying.class))).thenThrow(new IllegalStateException("disk gone"))
                .thenReturn(Shapes.box(20, 20, 4));
        assertThat(settled(request(STANDARD))).isInstanceOf(Standing.Failed.class);
        assertThat(settled(request(STANDARD))).isInstanceOf(Standing.Done.class);
    }

    @Test
    void work_that_nobody_waits_for_is_stopped() throws InterruptedException {
        CountDownLatch reading = new CountDownLatch(1), stopped = new CountDownLatch(1);
        when(meshes.mesh(any(Lying.class))).thenAnswer(call -> {
            reading.countDown();
            stopped.await();
            return Shapes.box(20, 20, 4);
        }).thenReturn(Shapes.box(20, 20, 4));
        Standing.Working<Estimate> working = (Standing.Working<Estimate>) estimator.ask(request(STANDARD));
        reading.await();
        estimator.stop(working.job());
        stopped.countDown();
        Standing.Working<Estimate> again = null;
        for (int tries = 0; tries < 200 && (again == null || again.job() == working.job()); tries++) {
            Thread.sleep(20);
            Standing<Estimate> standing = estimator.ask(request(STANDARD));
            assertThat(standing).as("the stopped work brought no result").isNotInstanceOf(Standing.Failed.class);
            again = standing instanceof Standing.Working<Estimate> other ? other : new Standing.Working<>(-1, 0);
        }
        assertThat(again.job()).isNotEqualTo(working.job());
    }

    private Standing<Estimate> settled(Estimator.Request request) throws InterruptedException {
        Standing<Estimate> standing = estimator.ask(request);
        for (int tries = 0; tries < 500 && standing instanceof Standing.Working; tries++) {
            Thread.sleep(20);
            standing = estimator.ask(request);
        }
        return standing;
    }

    private static Estimator.Request request(Printer printer) {
        return new Estimator.Request(new Estimator.Lay(PART, 0, RECIPE), printer, BuiltIn.PLA);
    }
}
