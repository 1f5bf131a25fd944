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
import fabbrica.core.recipe.Part;
import fabbrica.core.recipe.Plate;
import fabbrica.core.recipe.Printer;
import fabbrica.core.recipe.Recipe;
import fabbrica.core.recipe.StartingPoint;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class ShopTest {

    private static final Part PART = new Part("abc", 1, Rotation.NONE);

    private static final Printer STANDARD = BuiltIn.printer("standard").orElseThrow();
    private static final Recipe RECIPE = StartingPoint.DAILY_BREAD.recipe(STANDARD.nozzle(), STANDARD.kinematics());

    private final Meshes meshes = mock(Meshes.class);
    private final Shop shop = new Shop(meshes, mock(SlicedParts.class));

    @AfterEach
    void close() {
        shop.close();
    }

    @Test
    void what_is_asked_for_twice_is_worked_out_once() throws InterruptedException {
        when(meshes.mesh(any(Part.class))).thenReturn(Shapes.box(20, 20, 4));
        Standing<Estimate> first = settled(request(STANDARD));
        assertThat(first).isInstanceOf(Standing.Done.class);
        assertThat(shop.ask(request(STANDARD))).isEqualTo(first);
        verify(meshes, times(1)).mesh(PART);
    }

    @Test
    void printers_with_one_recipe_share_the_toolpath() throws InterruptedException {
        when(meshes.mesh(any(Part.class))).thenReturn(Shapes.box(20, 20, 4));
        settled(request(STANDARD));
        settled(request(STANDARD.with(STANDARD.kinematics().withAcceleration(300))));
        verify(meshes, times(1)).mesh(PART);
    }

    @Test
    void a_part_that_cannot_be_worked_out_is_said_and_may_be_asked_for_again() throws InterruptedException {
        when(meshes.mesh(any(Part.class))).thenThrow(new IllegalStateException("disk gone"))
                .thenReturn(Shapes.box(20, 20, 4));
        assertThat(settled(request(STANDARD))).isInstanceOf(Standing.Failed.class);
        assertThat(settled(request(STANDARD))).isInstanceOf(Standing.Done.class);
    }

    @Test
    void work_that_nobody_waits_for_is_stopped() throws InterruptedException {
        CountDownLatch reading = new CountDownLatch(1), stopped = new CountDownLatch(1);
        when(meshes.mesh(any(Part.class))).thenAnswer(call -> {
            reading.countDown();
            stopped.await();
            return Shapes.box(20, 20, 4);
        }).thenReturn(Shapes.box(20, 20, 4));
        Standing.Working<Estimate> working = (Standing.Working<Estimate>) shop.ask(request(STANDARD));
        reading.await();
        shop.stop(working.job());
        stopped.countDown();
        Standing.Working<Estimate> again = null;
        for (int tries = 0; tries < 200 && (again == null || again.job() == working.job()); tries++) {
            Thread.sleep(20);
            Standing<Estimate> standing = shop.ask(request(STANDARD));
            assertThat(standing).as("the stopped work brought no result").isNotInstanceOf(Standing.Failed.class);
            again = standing instanceof Standing.Working<Estimate> other ? other : new Standing.Working<>(-1, 0);
        }
        assertThat(again.job()).isNotEqualTo(working.job());
    }

    private Standing<Estimate> settled(Shop.Request request) throws InterruptedException {
        Standing<Estimate> standing = shop.ask(request);
        for (int tries = 0; tries < 500 && standing instanceof Standing.Working; tries++) {
            Thread.sleep(20);
            standing = shop.ask(request);
        }
        return standing;
    }

    private static Shop.Request request(Printer printer) {
        return new Shop.Request(Plate.of(PART, new Plate.Place(100, 100, 0), RECIPE), printer, BuiltIn.PLA);
    }
}
