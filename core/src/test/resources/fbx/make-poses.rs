use serde_json::{json, Value};
fn poses(scene: &ufbx::Scene) -> Value {
    let mut nodes = serde_json::Map::new();
    for n in scene.nodes.iter() {
        let m = n.node_to_world;
        nodes.insert(n.element.name.to_string(), json!([m.m00,m.m10,m.m20,m.m01,m.m11,m.m21,m.m02,m.m12,m.m22,m.m03,m.m13,m.m23]));
    }
    let mut meshes = vec![];
    for m in scene.meshes.iter() {
        let mut pts = vec![];
        for v in m.skinned_position.values.iter() { pts.push(v.x); pts.push(v.y); pts.push(v.z); }
        meshes.push(json!({"name": m.element.name.to_string(), "local": m.skinned_is_local, "points": pts}));
    }
    json!({"nodes": nodes, "meshes": meshes})
}
fn main() {
    let mut all = serde_json::Map::new();
    for path in std::env::args().skip(1) {
        let scene = match ufbx::load_file(&path, ufbx::LoadOpts{ignore_missing_external_files: true, evaluate_skinning: true, ..Default::default()}) { Ok(s) => s, Err(e) => { eprintln!("{}: {:?}", path, e.description); continue } };
        let mut list = vec![json!({"t": Value::Null, "pose": poses(&scene)})];
        for st in scene.anim_stacks.iter() {
            for t in [0.0, 0.25, 0.5, 0.75, 1.0, 1.3, 1.7, 2.0] {
                let e = ufbx::evaluate_scene(&scene, &st.anim, t, ufbx::EvaluateOpts{evaluate_skinning: true, ..Default::default()}).unwrap();
                list.push(json!({"t": t, "pose": poses(&e)}));
            }
        }
        let name = std::path::Path::new(&path).file_stem().unwrap().to_string_lossy().to_string();
        all.insert(name, json!(list));
    }
    println!("{}", Value::Object(all));
}
