//! Places that knife and pick keep out of, as a cook writes them: `string 150; place 40 110 12`.

use crate::words::trim;
use serde_json::{Value, json};

/// Radius of a place whose size was not said, mm.
const USUAL_RADIUS_MM: f64 = 10.0;

/// Reads them as the contract takes them; or says what cannot be.
pub fn read_avoid(typed: &str) -> Result<Vec<Value>, String> {
    typed.split([';', '\n']).map(str::trim).filter(|entry| !entry.is_empty()).map(read_one).collect()
}

fn read_one(entry: &str) -> Result<Value, String> {
    let word = entry.split_whitespace().next().unwrap_or_default().to_lowercase();
    let numbers = numbers(entry);
    let string = ["string", "tie", "skewer"].iter().any(|known| word.starts_with(known));
    match numbers.as_slice() {
        [at] if string => Ok(json!({"tie_mm": at})),
        [x, y] if !string => Ok(json!({"x_mm": x, "y_mm": y, "radius_mm": USUAL_RADIUS_MM})),
        [x, y, radius] if !string => Ok(json!({"x_mm": x, "y_mm": y, "radius_mm": radius})),
        _ => {
            let shown: String = entry.chars().take(40).collect();
            Err(format!(
                "“{shown}” is no place; write string 150 (mm from the left end), or place 40 110 12 (from left, from near, how far round)."
            ))
        }
    }
}

fn numbers(entry: &str) -> Vec<f64> {
    let digits = |c: char| c.is_ascii_digit() || c == '.' || c == '-';
    entry.split(|c: char| !digits(c)).filter_map(|part| part.trim_end_matches('.').parse().ok()).collect()
}

/// Writes them back.
pub fn write_avoid(places: &Value) -> String {
    let mm = |value: &Value| trim(value.as_f64().unwrap_or_default(), 1);
    let write = |place: &Value| match place.get("tie_mm").filter(|at| !at.is_null()) {
        Some(at) => format!("string {}", mm(at)),
        None => format!("place {} {} {}", mm(&place["x_mm"]), mm(&place["y_mm"]), mm(&place["radius_mm"])),
    };
    places.as_array().into_iter().flatten().map(write).collect::<Vec<_>>().join("; ")
}

/// The words after a handle was dragged: `spot-1 40 110` puts the second place 40 mm from the left and 110 from the near edge,
/// `tie-0 150` the first string. What says nothing of the kind, or names none there, changes nothing.
pub fn moved(typed: &str, said: &str) -> String {
    let Some((kind, index, to)) = read_moved(said) else { return typed.to_owned() };
    let Ok(mut places) = read_avoid(typed) else { return typed.to_owned() };
    let is_tie = |place: &Value| !place["tie_mm"].is_null();
    let Some(place) = places.iter_mut().filter(|place| is_tie(place) == (kind == "tie")).nth(index) else { return typed.to_owned() };
    match to[..] {
        [along, ..] if kind == "tie" => place["tie_mm"] = json!(along),
        [along, across] => (place["x_mm"], place["y_mm"]) = (json!(along), json!(across)),
        _ => return typed.to_owned(),
    }
    write_avoid(&Value::from(places))
}

fn read_moved(said: &str) -> Option<(&str, usize, Vec<f64>)> {
    let (handle, to) = said.split_once(' ')?;
    let (kind, index) = handle.split_once('-')?;
    let to: Vec<f64> = to.split(' ').map(str::parse).collect::<Result<_, _>>().ok()?;
    (matches!(kind, "spot" | "tie") && to.iter().all(|mm| mm.is_finite())).then_some((kind, index.parse().ok()?, to))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_dragged_handle_moves_its_own_entry_and_no_other() {
        let typed = "string 150; place 40 110 12; skewer 80; spot 7 9";
        assert_eq!(moved(typed, "spot-1 20 30"), "string 150; place 40 110 12; string 80; place 20 30 10");
        assert_eq!(moved(typed, "tie-0 155 61"), "string 155; place 40 110 12; string 80; place 7 9 10");
        for nothing in ["", "spot-2 1 1", "tie-9 4", "spot-0 5", "spot-0 NaN 4", "spot-x 1 1", "place 4 4", "tie-0"] {
            assert_eq!(moved(typed, nothing), typed, "{nothing}");
        }
        assert_eq!(moved("over there", "tie-0 5"), "over there");
    }

    #[test]
    fn strings_and_places_are_read_and_written_back() {
        let read = read_avoid("string at 150 mm; skewer 80\nplace 40 x 110, 12 mm; spot 7 9").unwrap();
        assert_eq!(write_avoid(&Value::from(read)), "string 150; string 80; place 40 110 12; place 7 9 10");
        assert!(read_avoid("").unwrap().is_empty());
        for wrong in ["string", "string 1 2", "over there", "place 5"] {
            assert!(read_avoid(wrong).unwrap_err().contains(wrong), "{wrong}");
        }
    }
}
