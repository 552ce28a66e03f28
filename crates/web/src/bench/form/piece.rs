//! The words about the piece: weight, portions, measures, and what the look over it found.

use super::{BenchForm, Slip, Slips};
use jiff::ZonedDateTime;
use rauchkeller_core::clock::{Toward, read_day_by};
use rauchkeller_core::piece::Cut;
use rauchkeller_core::salt::{PackLabel, read_pack_label};
use rauchkeller_core::units::{Expect, LengthIn, MassIn, System, each_of, read_face, read_lengths, read_portions};
use serde_json::{Map, Value, json};

impl BenchForm {
    /// The piece, and whether a weight was typed.
    pub(super) fn read_piece(
        &self,
        cut: Option<Cut>,
        now: &ZonedDateTime,
        system: Option<System>,
        slips: &mut Slips,
    ) -> (Map<String, Value>, bool) {
        let mut piece = Map::new();
        piece.insert("cut".into(), cut.map_or(super::FIRST_CUT, |c| c.id).into());
        let (weighed, mut portions) = self.read_weight(cut, system, &mut piece, slips);
        self.read_thickness(cut, system, &mut piece, &mut portions, slips);
        self.read_own_doses(&mut portions, slips);
        if portions.len() > 1 {
            piece.insert("portions".into(), portions.into_iter().map(Value::Object).collect());
        }
        if !self.face.trim().is_empty() && cut.is_some_and(|c| !c.is_bird()) {
            match read_face(&self.face, &Expect::between(60.0, 700.0).by(system)) {
                Ok((length, width)) => {
                    piece.insert("length_mm".into(), json!(length.in_mm()));
                    piece.insert("width_mm".into(), json!(width.in_mm()));
                }
                Err(error) => {
                    let both = if error.choices().is_empty() { " Both sides, like 267 × 190 mm." } else { "" };
                    let mut slip: Slip = error.into();
                    slip.says.push_str(both);
                    slips.insert("face", slip);
                }
            }
        }
        for (word, typed, field, toward) in
            [("bought", &self.bought, "bought_on", Toward::Purchase), ("useby", &self.useby, "use_by", Toward::Coming)]
        {
            let said = Some(typed.trim()).filter(|t| !t.is_empty() && !matches!(*t, "not yet" | "not bought yet"));
            match said.map(|t| read_day_by(t, now, toward, system)) {
                None => {}
                Some(Ok(day)) => {
                    piece.insert(field.into(), day.to_string().into());
                }
                Some(Err(error)) => {
                    slips.insert(word, error.into());
                }
            }
        }
        if self.stands.starts_with("frozen") {
            piece.insert("frozen".into(), true.into());
        }
        self.read_look_over(cut, &mut piece, slips);
        (piece, weighed)
    }

    /// What it weighs, or what each portion does, with its thickness where that stands beside it.
    fn read_weight(
        &self,
        cut: Option<Cut>,
        system: Option<System>,
        piece: &mut Map<String, Value>,
        slips: &mut Slips,
    ) -> (bool, Vec<Map<String, Value>>) {
        let guess = cut.map_or(2000.0, |c| f64::midpoint(c.typical_g.0, c.typical_g.1));
        piece.insert("weight_g".into(), json!(guess));
        if self.weight.trim().is_empty() {
            return (false, vec![]);
        }
        let expect = cut.map_or(Expect::between(100.0, 20_000.0), |cut| cut.one_weighs());
        match read_portions(&self.weight, &expect.by(system), &thick_of(cut).by(system)) {
            Ok(portions) => {
                let sum: f64 = portions.iter().map(|p| p.weight.in_g()).sum();
                piece.insert("weight_g".into(), json!(sum));
                if let [one] = portions.as_slice()
                    && let Some(thick) = one.thickness
                {
                    piece.insert("salt_thickness_mm".into(), json!(thick.in_mm()));
                }
                let portion = |p: &rauchkeller_core::units::TypedPortion| {
                    let mut said = Map::from_iter([("weight_g".to_owned(), json!(p.weight.in_g()))]);
                    said.extend(p.thickness.map(|thick| ("salt_thickness_mm".to_owned(), json!(thick.in_mm()))));
                    said
                };
                (true, portions.iter().map(portion).collect())
            }
            Err(error) => {
                slips.insert("weight", error.into());
                (false, vec![])
            }
        }
    }

    /// One thickness for all, or one a portion: `30 + 42 mm`.
    fn read_thickness(
        &self,
        cut: Option<Cut>,
        system: Option<System>,
        piece: &mut Map<String, Value>,
        portions: &mut [Map<String, Value>],
        slips: &mut Slips,
    ) {
        if self.thick.trim().is_empty() {
            return;
        }
        let expect = thick_of(cut).by(system);
        let values: Result<Vec<f64>, Slip> =
            read_lengths(&self.thick, &expect).map(|all| all.into_iter().map(LengthIn::in_mm).collect()).map_err(Slip::from);
        match values {
            Ok(values) if values.len() == 1 => {
                piece.insert("salt_thickness_mm".into(), json!(values[0]));
            }
            Ok(values) => give_each("thick", "salt_thickness_mm", &values, portions, slips),
            Err(error) => {
                slips.insert("thick", error);
            }
        }
    }

    /// A dose a portion: `10 + 12 g/kg`. One dose for all is the salt's own word.
    fn read_own_doses(&self, portions: &mut [Map<String, Value>], slips: &mut Slips) {
        let texts = each_of(&self.dose);
        if texts.len() < 2 {
            return;
        }
        let values: Result<Vec<f64>, Slip> = texts.iter().map(|text| super::salty::read_own_dose(text)).collect();
        match values {
            Ok(values) => give_each("dose", "g_per_kg", &values, portions, slips),
            Err(error) => {
                slips.insert("dose", error);
            }
        }
    }

    /// Scoring and label.
    fn read_look_over(&self, cut: Option<Cut>, piece: &mut Map<String, Value>, slips: &mut Slips) {
        let covered = cut.is_some_and(|c| c.skin_mm > 0.0 || c.fat_mm > 0.0);
        match self.scored.as_str() {
            "fat" | "lean" if covered => {
                piece.insert("scored".into(), format!("into-{}", self.scored).into());
            }
            _ => {}
        }
        if !self.label.trim().is_empty() {
            match read_pack_label(&self.label) {
                Ok(None) => {}
                Ok(Some(label)) => {
                    piece.insert("solution".into(), label_json(label));
                }
                Err(error) => {
                    slips.insert("label", error.into());
                }
            }
        }
    }
}

/// How thick this cut may be.
pub(super) fn thick_of(cut: Option<Cut>) -> Expect {
    cut.map_or(Expect::between(10.0, 200.0), |cut| cut.one_is_thick())
}

/// A label as the contract takes it.
pub(super) fn label_json(label: PackLabel) -> Value {
    match label {
        PackLabel::Sodium(mg) => json!({"sodium_mg_per_100g": mg}),
        PackLabel::UpTo(share) => json!({"up_to_percent": share.0 * 100.0}),
    }
}

fn give_each(word: &'static str, field: &str, values: &[f64], portions: &mut [Map<String, Value>], slips: &mut Slips) {
    if values.len() != portions.len() {
        let count = portions.len().max(1);
        let s = if count == 1 { "" } else { "s" };
        let says = format!("{} values for {count} portion{s}; write one for each, joined by +, or one for all.", values.len());
        slips.insert(word, says.into());
        return;
    }
    for (portion, value) in portions.iter_mut().zip(values) {
        portion.insert(field.to_owned(), json!(value));
    }
}
