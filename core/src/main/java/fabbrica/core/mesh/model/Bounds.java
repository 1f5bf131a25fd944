package fabbrica.core.mesh.model;

/** An axis-aligned box in millimetres. */
public record Bounds(double minX, double minY, double minZ, double maxX, double maxY, double maxZ) {

    public double sizeX() {
        return maxX - minX;
    }

    public double sizeY() {
        return maxY - minY;
    }

    public double sizeZ() {
        return maxZ - minZ;
    }

    public double largestSide() {
        return Math.max(sizeX(), Math.max(sizeY(), sizeZ()));
    }

    public double smallestSide() {
        return Math.min(sizeX(), Math.min(sizeY(), sizeZ()));
    }
}
