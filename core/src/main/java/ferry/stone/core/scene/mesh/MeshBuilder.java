package ferry.stone.core.scene.mesh;

import java.util.List;
import java.util.Map;

/** Makes a changed copy of a mesh. Nothing but what is set changes. */
public final class MeshBuilder {
  private int id;
  private String name;
  private Coordinates points;
  private Polygons faces;
  private List<Attribute> attributes;
  private int[] materialIds;
  private int[][] variantMaterials;
  private int[] faceSlot;
  private int[] smoothing;
  private int[] hardEdges;
  private List<FaceSet> faceSets;
  private List<EdgeSet> edgeSets;
  private LooseElements loose;
  private List<MorphTarget> morphs;
  private Subdivision subdivision;
  private Map<String, Object> properties;

  MeshBuilder(PolygonMesh mesh) {
    id = mesh.id();
    name = mesh.name();
    points = mesh.points();
    faces = mesh.faces();
    attributes = mesh.attributes();
    materialIds = mesh.materialIds();
    variantMaterials = mesh.variantMaterials();
    faceSlot = mesh.faceSlot();
    smoothing = mesh.smoothing();
    hardEdges = mesh.hardEdges();
    faceSets = mesh.faceSets();
    edgeSets = mesh.edgeSets();
    loose = mesh.loose();
    morphs = mesh.morphs();
    subdivision = mesh.subdivision();
    properties = mesh.properties();
  }

  public MeshBuilder id(int value) {
    id = value;
    return this;
  }

  public MeshBuilder name(String value) {
    name = value;
    return this;
  }

  public MeshBuilder points(Coordinates value) {
    points = value;
    return this;
  }

  public MeshBuilder faces(Polygons value) {
    faces = value;
    return this;
  }

  public MeshBuilder attributes(List<Attribute> value) {
    attributes = value;
    return this;
  }

  public MeshBuilder loose(LooseElements value) {
    loose = value;
    return this;
  }

  public MeshBuilder morphs(List<MorphTarget> value) {
    morphs = value;
    return this;
  }

  public MeshBuilder subdivision(Subdivision value) {
    subdivision = value;
    return this;
  }

  public MeshBuilder properties(Map<String, Object> value) {
    properties = value;
    return this;
  }

  /**
   * @param slotMaterials material of each slot, −1 for none
   * @param slotOfFace slot of each face, or {@code null} when all have slot 0
   */
  public MeshBuilder materials(int[] slotMaterials, int[] slotOfFace) {
    materialIds = slotMaterials;
    faceSlot = slotOfFace;
    return this;
  }

  /**
   * @param slotMaterials material of each slot in each variant, −1 where the slot keeps its own
   */
  public MeshBuilder variantMaterials(int[][] slotMaterials) {
    variantMaterials = slotMaterials;
    return this;
  }

  /**
   * @param groups smoothing group of each face, or {@code null} if unsaid
   */
  public MeshBuilder smoothing(int[] groups) {
    smoothing = groups;
    return this;
  }

  /**
   * @param pairs vertices of the edges where shading breaks, or {@code null} if unsaid
   */
  public MeshBuilder hardEdges(int[] pairs) {
    hardEdges = pairs;
    return this;
  }

  public MeshBuilder faceSets(List<FaceSet> value) {
    faceSets = value;
    return this;
  }

  public MeshBuilder edgeSets(List<EdgeSet> value) {
    edgeSets = value;
    return this;
  }

  public PolygonMesh build() {
    return new PolygonMesh(
        id,
        name,
        points,
        faces,
        attributes,
        materialIds,
        variantMaterials,
        faceSlot,
        smoothing,
        hardEdges,
        faceSets,
        edgeSets,
        loose,
        morphs,
        subdivision,
        properties);
  }
}
