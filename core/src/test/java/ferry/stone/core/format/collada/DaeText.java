package ferry.stone.core.format.collada;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.Map;

/** Pieces of COLLADA files, put together by tests. */
public final class DaeText {
  static final String UNIT_CM_Z_UP =
      """
      <asset><unit name="centimeter" meter="0.01"/><up_axis>Z_UP</up_axis></asset>
      """;

  /** A unit square of two triangles with normals and two sets of UVs, and a quad beside it. */
  static final String PLATE =
      """
      <geometry id="plate" name="plate"><mesh>
        <source id="pos"><float_array id="pos-a" count="18">
          0 0 0  1 0 0  1 1 0  0 1 0  2 0 0  2 1 0</float_array>
          <technique_common><accessor source="#pos-a" count="6" stride="3">
            <param name="X" type="float"/><param name="Y" type="float"/>
            <param name="Z" type="float"/></accessor></technique_common></source>
        <source id="nor"><float_array id="nor-a" count="3">0 0 1</float_array>
          <technique_common><accessor source="#nor-a" count="1" stride="3">
            <param name="X" type="float"/><param name="Y" type="float"/>
            <param name="Z" type="float"/></accessor></technique_common></source>
        <source id="uv0"><float_array id="uv0-a" count="12">
          0 0 9  1 0 9  1 1 9  0 1 9</float_array>
          <technique_common><accessor source="#uv0-a" count="4" stride="3">
            <param name="S" type="float"/><param name="T" type="float"/>
            <param type="float"/></accessor></technique_common></source>
        <source id="uv1"><float_array id="uv1-a" count="4">0.25 0.5 0.75 1</float_array>
          <technique_common><accessor source="#uv1-a" count="2" stride="2">
            <param name="S" type="float"/><param name="T" type="float"/></accessor>
            </technique_common></source>
        <vertices id="vtx"><input semantic="POSITION" source="#pos"/></vertices>
        <triangles count="2" material="SYM_A">
          <input semantic="VERTEX" source="#vtx" offset="0"/>
          <input semantic="NORMAL" source="#nor" offset="1"/>
          <input semantic="TEXCOORD" source="#uv0" offset="2" set="0"/>
          <input semantic="TEXCOORD" source="#uv1" offset="3" set="1"/>
          <p>0 0 0 0  1 0 1 0  2 0 2 1   0 0 0 0  2 0 2 1  3 0 3 1</p></triangles>
        <polylist count="1" material="SYM_B">
          <input semantic="VERTEX" source="#vtx" offset="0"/>
          <vcount>4</vcount><p>1 4 5 2</p></polylist>
      </mesh></geometry>
      """;

  static final String MATERIALS =
      """
      <library_images>
        <image id="img"><init_from>file:///C:/yard/oak%20planks.png</init_from></image>
      </library_images>
      <library_effects>
        <effect id="fx"><profile_COMMON>
          <newparam sid="surf"><surface type="2D"><init_from>img</init_from></surface></newparam>
          <newparam sid="samp"><sampler2D><source>surf</source><wrap_s>MIRROR</wrap_s>
            <wrap_t>CLAMP</wrap_t><magfilter>NEAREST</magfilter></sampler2D></newparam>
          <technique sid="common"><phong>
            <emission><color>0 0 0 1</color></emission>
            <diffuse><texture texture="samp" texcoord="UVB"/></diffuse>
            <specular><color>0.5 0.25 0.125 1</color></specular>
            <shininess><float>30</float></shininess>
            <transparent opaque="A_ONE"><color>1 1 1 1</color></transparent>
            <transparency><float>0.75</float></transparency>
          </phong></technique>
          <extra><technique profile="any"><double_sided>1</double_sided></technique></extra>
        </profile_COMMON></effect>
        <effect id="fx2"><profile_COMMON><technique sid="common"><lambert>
          <diffuse><color>0.1 0.2 0.3 1</color></diffuse></lambert></technique>
        </profile_COMMON></effect>
      </library_effects>
      <library_materials>
        <material id="oak" name="oak"><instance_effect url="#fx"/></material>
        <material id="iron" name="iron"><instance_effect url="#fx2"/></material>
      </library_materials>
      """;

  static final String BOUND =
      """
      <instance_geometry url="#plate"><bind_material><technique_common>
        <instance_material symbol="SYM_A" target="#oak">
          <bind_vertex_input semantic="UVB" input_semantic="TEXCOORD" input_set="1"/>
        </instance_material>
        <instance_material symbol="SYM_B" target="#iron"/>
      </technique_common></bind_material></instance_geometry>
      """;

  private DaeText() {}

  /**
   * A file of version 1.4.1.
   *
   * @param nodes of its scene
   */
  public static String file(String asset, String libraries, String nodes) {
    return "<?xml version=\"1.0\" encoding=\"utf-8\"?>\n"
        + "<COLLADA xmlns=\"http://www.collada.org/2005/11/COLLADASchema\" version=\"1.4.1\">\n"
        + asset
        + libraries
        + "<library_visual_scenes><visual_scene id=\"yard\">\n"
        + nodes
        + "</visual_scene></library_visual_scenes>\n"
        + "<scene><instance_visual_scene url=\"#yard\"/></scene></COLLADA>\n";
  }

  /** A whole file with nearly all that is read, for damaging it. */
  public static String whole() {
    return file(
        UNIT_CM_Z_UP,
        MATERIALS + geometries(PLATE) + ColladaRigTest.RIG + ColladaRigTest.MOTION,
        "<node id=\"deck\" name=\"deck\"><translate sid=\"t\">1 2 3</translate>"
            + "<rotate sid=\"rz\">0 0 1 90</rotate>"
            + BOUND
            + "</node>"
            + ColladaRigTest.ARM);
  }

  /**
   * The same as far as three's loader goes: no morph, one library of a kind, no numbers without a
   * name.
   */
  public static String plain() {
    int sway = ColladaRigTest.MOTION.indexOf("<animation id=\"sway\"");
    int end = ColladaRigTest.MOTION.indexOf("</library_animations>");
    String motion = ColladaRigTest.MOTION.substring(0, sway) + ColladaRigTest.MOTION.substring(end);
    String plate = PLATE.replace("<param type=\"float\"/>", "<param name=\"P\" type=\"float\"/>");
    int grown = ColladaRigTest.ARM.indexOf("<node id=\"grown\"");
    return file(
        UNIT_CM_Z_UP,
        MATERIALS
            + ColladaRigTest.RIG
                .replaceAll("(?s)<controller id=\"grow\">.*?</controller>", "")
                .replace("<library_geometries>", "<library_geometries>" + plate)
            + motion,
        "<node id=\"deck\" name=\"deck\"><translate sid=\"t\">1 2 3</translate>"
            + "<rotate sid=\"rz\">0 0 1 90</rotate>"
            + BOUND
            + "</node>"
            + ColladaRigTest.ARM.substring(0, grown));
  }

  static String geometries(String... geometries) {
    return "<library_geometries>" + String.join("", geometries) + "</library_geometries>\n";
  }

  static Scene read(String text) throws IOException, FormatException {
    return read(text, new Findings());
  }

  static Scene read(String text, Findings findings) throws IOException, FormatException {
    TestFiles files = new TestFiles().with("a.dae", text);
    return ColladaReader.read("a.dae", new ReadContext(files, Map.of(), findings, Progress.NONE));
  }
}
