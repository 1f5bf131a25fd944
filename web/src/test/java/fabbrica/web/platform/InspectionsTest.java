package fabbrica.web.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import fabbrica.core.mesh.model.Rotation;
import fabbrica.core.mesh.model.Shapes;
import fabbrica.core.recipe.Part;
import fabbrica.web.platform.storage.StorageException;
import fabbrica.web.platform.storage.StorageFault;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

class InspectionsTest {

    private static final Part PART = new Part("abc", 1, Rotation.NONE);

    private final Meshes meshes = mock(Meshes.class);
    private final InspectionRepository repository = mock(InspectionRepository.class);
    private final Inspections inspections = new Inspections(repository, meshes,
            new TransactionTemplate(mock(PlatformTransactionManager.class)));

    @Test
    void a_part_is_measured_once_and_kept() {
        when(repository.find(PART)).thenReturn(Optional.empty());
        when(meshes.mesh(PART)).thenReturn(Shapes.box(1, 2, 3));
        assertThat(inspections.of(PART).bounds().sizeZ()).isEqualTo(3);
        assertThat(inspections.ask(PART)).isPresent();
        verify(meshes, times(1)).mesh(PART);
        verify(repository, times(1)).save(any(), any());
    }

    @Test
    void what_cannot_be_kept_is_no_reason_to_refuse_it() {
        when(repository.find(PART)).thenReturn(Optional.empty());
        when(meshes.mesh(PART)).thenReturn(Shapes.box(1, 2, 3));
        doThrow(new StorageException(StorageFault.FULL, null)).when(repository).save(any(), any());
        assertThat(inspections.ask(PART)).isPresent();
    }

    @Test
    void what_takes_long_goes_on_while_nobody_waits() throws InterruptedException {
        CountDownLatch slow = new CountDownLatch(1);
        when(repository.find(PART)).thenReturn(Optional.empty());
        when(meshes.mesh(PART)).thenAnswer(call -> {
            slow.await();
            return Shapes.box(1, 2, 3);
        });
        assertThat(inspections.ask(PART)).isEmpty();
        slow.countDown();
        for (int i = 0; i < 100 && inspections.ask(PART).isEmpty(); i++) {
            Thread.sleep(20);
        }
        assertThat(inspections.ask(PART)).isPresent();
        verify(meshes, times(1)).mesh(PART);
    }

    @Test
    void a_part_that_cannot_be_measured_says_so_and_may_be_tried_again() {
        when(repository.find(PART)).thenReturn(Optional.empty());
        when(meshes.mesh(PART)).thenThrow(new IllegalStateException("disk gone")).thenReturn(Shapes.box(1, 1, 1));
        assertThatThrownBy(() -> inspections.ask(PART)).hasMessageContaining("could not be measured");
        assertThat(inspections.ask(PART)).isPresent();
    }
}
