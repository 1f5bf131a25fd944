package fabbrica.web.platform;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.EncodeHintType;
import com.google.zxing.WriterException;
import com.google.zxing.common.BitMatrix;
import com.google.zxing.qrcode.QRCodeWriter;
import com.google.zxing.qrcode.decoder.ErrorCorrectionLevel;
import java.util.Map;
import org.springframework.web.servlet.support.ServletUriComponentsBuilder;

/** A page of this house as a code to be read by a camera: QR (ISO/IEC 18004) with medium error correction, drawn as SVG. */
public final class QrCode {

    private static final int QUIET_ZONE = 2;

    private QrCode() {
    }

    /** @param path of the page; the house is addressed as it was asked for now */
    public static String of(String path) {
        String address = ServletUriComponentsBuilder.fromCurrentContextPath().path(path).build().toUriString();
        try {
            BitMatrix cells = new QRCodeWriter().encode(address, BarcodeFormat.QR_CODE, 0, 0,
                    Map.of(EncodeHintType.ERROR_CORRECTION, ErrorCorrectionLevel.M, EncodeHintType.MARGIN, QUIET_ZONE));
            StringBuilder dark = new StringBuilder();
            for (int y = 0; y < cells.getHeight(); y++) {
                for (int x = 0; x < cells.getWidth(); x++) {
                    if (cells.get(x, y)) {
                        dark.append(Svg.path("M", x, y, "h1v1h-1z"));
                    }
                }
            }
            return new Svg().open("svg", "class", "qr-code", "viewBox", Svg.path(0, 0, cells.getWidth(), cells.getHeight()), "role", "img", "aria-label", address)
                    .leaf("path", "d", dark).toString();
        } catch (WriterException e) {
            throw new IllegalArgumentException(e);
        }
    }
}
