//! The table of fields against itself: no path or word twice, each number where it says.

use super::*;
use crate::ask::{CoverAsk, MixUse};
use crate::piece::Cut;
use crate::salt::{CoverKind, read_mix};

#[test]
fn every_number_is_said_once_and_comes_back_as_it_went_in() {
    let mut paths: Vec<&str> = FIELDS.iter().map(|field| field.path).collect();
    paths.sort_unstable();
    paths.dedup();
    assert_eq!(paths.len(), FIELDS.len());
    for field in FIELDS.iter().filter(|f| f.path != "piece.weight_g") {
        for value in [field.range.0, field.range.1] {
            let cut = Cut::find("pork-belly").unwrap();
            let mut request = PlanRequest::new(cut, grams(2400.0), "2026-12-10T07:00[Europe/Vienna]".parse().unwrap());
            request.cover = Some(CoverAsk { kind: CoverKind::Crust, depth: None, left: None });
            request.mix = Some(MixUse { mix: read_mix("rub", "100 g salt", &[]).unwrap(), asked: None, bath: None });
            (field.put)(&mut request, value);
            let back = (field.get)(&request).unwrap();
            assert!((back - value).abs() < 1e-9, "{}: {back} for {value}", field.path);
            assert!(field.refuse(field.path, back).is_none(), "{}", field.path);
            assert!(!field.means.is_empty() && field.remedy.ends_with('.'), "{}", field.path);
        }
        assert!(field.refuse(field.path, field.range.1 + 1.0).is_some() && field.refuse(field.path, f64::NAN).is_some());
    }
}
