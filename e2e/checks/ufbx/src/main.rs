// look FILE… : what the ufbx crate sees in FBX files, one JSON line a file, in metres with Y up:
// nodes with their origins, meshes with boxes and triangles by material, materials, clips with
// boxes at five moments, cameras, lights, warnings.
use serde_json::{json, Map, Value};

const PARTS: [f64; 5] = [0.0, 0.25, 0.5, 0.75, 1.0];

fn path(node: &ufbx::Node) -> String {
    let name = node.element.name.to_string();
    match &node.parent {
        Some(parent) if !parent.is_root => format!("{}/{}", path(parent), name),
        _ => name,
    }
}

fn bounds(node: &ufbx::Node, mesh: &ufbx::Mesh) -> Value {
    let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    for &i in mesh.skinned_position.indices.iter() {
        let mut p = mesh.skinned_position.values[i as usize];
        if mesh.skinned_is_local {
            p = ufbx::transform_position(&node.geometry_to_world, p);
        }
        for (k, v) in [p.x, p.y, p.z].into_iter().enumerate() {
            low[k] = low[k].min(v);
            high[k] = high[k].max(v);
        }
    }
    json!([low[0], low[1], low[2], high[0], high[1], high[2]])
}

fn shown(scene: &ufbx::Scene) -> Vec<(String, &ufbx::Node, &ufbx::Mesh)> {
    scene
        .nodes
        .iter()
        .filter(|n| !n.is_root)
        .filter_map(|n| n.mesh.as_ref().map(|m| (path(n), n.as_ref(), m.as_ref())))
        .filter(|(_, _, m)| m.num_faces > 0)
        .collect()
}

fn boxes(scene: &ufbx::Scene) -> Vec<Value> {
    shown(scene)
        .into_iter()
        .map(|(path, node, mesh)| json!({"path": path, "box": bounds(node, mesh)}))
        .collect()
}

fn triangles(node: &ufbx::Node, mesh: &ufbx::Mesh) -> Value {
    let mut counts: Map<String, Value> = Map::new();
    for (f, face) in mesh.faces.iter().enumerate() {
        let place = if mesh.face_material.len() > 0 { mesh.face_material[f] as usize } else { 0 };
        let name = if node.materials.len() == 0 {
            String::new()
        } else {
            let at = if place < node.materials.len() { place } else { 0 };
            node.materials[at].element.name.to_string()
        };
        let more = (face.num_indices as i64 - 2).max(0);
        let before = counts.get(&name).and_then(|v| v.as_i64()).unwrap_or(0);
        counts.insert(name, json!(before + more));
    }
    Value::Object(counts)
}

fn map(m: &ufbx::MaterialMap) -> Value {
    let v = m.value_vec4;
    json!({"has": m.has_value, "value": [v.x, v.y, v.z, v.w],
           "texture": m.texture.as_ref().map(|t| t.relative_filename.to_string())})
}

fn material(m: &ufbx::Material) -> Value {
    json!({
        "name": m.element.name.to_string(),
        "base": map(&m.pbr.base_color),
        "metallic": map(&m.pbr.metalness),
        "roughness": map(&m.pbr.roughness),
        "emissive": map(&m.pbr.emission_color),
        "opacity": map(&m.pbr.opacity),
        "normal": map(&m.pbr.normal_map),
        "diffuse": map(&m.fbx.diffuse_color),
        "shader": format!("{:?}", m.shader_type),
    })
}

fn look(file: &str) -> Result<Value, String> {
    let opts = ufbx::LoadOpts {
        ignore_missing_external_files: true,
        evaluate_skinning: true,
        target_axes: ufbx::CoordinateAxes::right_handed_y_up(),
        target_unit_meters: 1.0,
        ..Default::default()
    };
    let scene = ufbx::load_file(file, opts).map_err(|e| format!("{:?}", e.description))?;
    let nodes: Vec<Value> = scene
        .nodes
        .iter()
        .filter(|n| !n.is_root)
        .map(|n| {
            let m = n.node_to_world;
            json!({"path": path(n), "at": [m.m03, m.m13, m.m23]})
        })
        .collect();
    let meshes: Vec<Value> = shown(&scene)
        .into_iter()
        .map(|(path, node, mesh)| {
            let morphs: Vec<String> = mesh
                .blend_deformers
                .iter()
                .flat_map(|d| d.channels.iter().map(|c| c.element.name.to_string()))
                .collect();
            json!({"path": path, "box": bounds(node, mesh), "triangles": triangles(node, mesh),
                   "morphs": morphs})
        })
        .collect();
    let mut clips = vec![];
    for stack in scene.anim_stacks.iter() {
        let length = stack.time_end - stack.time_begin;
        let mut poses = vec![];
        for part in PARTS {
            let t = stack.time_begin + part * length;
            let opts = ufbx::EvaluateOpts { evaluate_skinning: true, ..Default::default() };
            let posed = ufbx::evaluate_scene(&scene, &stack.anim, t, opts)
                .map_err(|e| format!("{:?}", e.description))?;
            poses.push(json!({"part": part, "boxes": boxes(&posed)}));
        }
        clips.push(json!({"name": stack.element.name.to_string(), "seconds": length, "poses": poses}));
    }
    let warnings: Vec<String> =
        scene.metadata.warnings.iter().map(|w| w.description.to_string()).collect();
    Ok(json!({
        "nodes": nodes, "meshes": meshes, "clips": clips, "warnings": warnings,
        "materials": scene.materials.iter().map(|m| material(m)).collect::<Vec<_>>(),
        "cameras": scene.cameras.len(), "lights": scene.lights.len(),
        "curves": scene.nurbs_curves.iter().map(|c| json!({
            "order": c.basis.order, "valid": c.basis.valid, "knots": c.basis.knot_vector.len(),
            "points": c.control_points.iter().map(|p| vec![p.x, p.y, p.z, p.w]).collect::<Vec<_>>(),
        })).collect::<Vec<_>>(),
        "lines": scene.line_curves.iter().map(|l| l.point_indices.len()).collect::<Vec<_>>(),
    }))
}

// --time FILE: seconds of the fastest of five loads.
fn time(file: &str) -> Option<f64> {
    let mut best: Option<f64> = None;
    for _ in 0..5 {
        let start = std::time::Instant::now();
        let scene = ufbx::load_file(file, ufbx::LoadOpts::default()).ok()?;
        let seconds = start.elapsed().as_secs_f64();
        drop(scene);
        best = Some(best.map_or(seconds, |b| b.min(seconds)));
    }
    best
}

fn main() {
    let given: Vec<String> = std::env::args().skip(1).collect();
    if given.len() == 2 && given[0] == "--time" {
        println!("{}", time(&given[1]).map_or("NaN".to_string(), |s| s.to_string()));
        return;
    }
    for file in std::env::args().skip(1) {
        match look(&file) {
            Ok(seen) => println!("{}", seen),
            Err(problem) => println!("{}", json!({"problem": problem})),
        }
    }
}
