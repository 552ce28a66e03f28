//! The numbers a request may say, each in one place: where it stands, in what unit, what is allowed, what it means, what to do
//! where it cannot be, and the word of the sentence that says it. Reader, check, published schema and Bench go by this table.

use super::resolved::Resolved;
use crate::ask::{Goal, PlanRequest, Refusal};
use crate::salt::PackLabel;
use crate::units::{
    Dryness, Evenness, GramsPerDm2, GramsPerKg, HeatTransfer, LengthIn, MassIn, RelativeHumidity, Share, TemperatureIn, TimeIn, celsius,
    grams, hours, millimetres, minutes,
};

/// What a number of the request is counted in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Unit {
    /// Grams.
    Gram,
    /// Milligrams of sodium in 100 g, as a label has it.
    SodiumOnLabel,
    /// Millimetres.
    Millimetre,
    /// Grams of salt a kilogram.
    GramPerKg,
    /// Grams a square decimetre.
    GramPerDm2,
    /// A share, 0 to 1.
    Share,
    /// Per cent.
    Percent,
    /// Degrees Celsius.
    Celsius,
    /// Watts a square metre and kelvin.
    HeatTransfer,
    /// Hours.
    Hour,
    /// Minutes.
    Minute,
    /// A whole number.
    Count,
}

impl Unit {
    /// The unit as it is written behind a number; empty for shares and counts.
    pub const fn symbol(self) -> &'static str {
        match self {
            Self::Gram => "g",
            Self::SodiumOnLabel => "mg sodium per 100 g",
            Self::Millimetre => "mm",
            Self::GramPerKg => "g/kg",
            Self::GramPerDm2 => "g/dm²",
            Self::Share | Self::Count => "",
            Self::Percent => "%",
            Self::Celsius => "°C",
            Self::HeatTransfer => "W/m²K",
            Self::Hour => "h",
            Self::Minute => "min",
        }
    }

    /// A number with its unit, as it is written.
    pub(crate) fn write(self, value: f64) -> String {
        // To a thousandth, as far as it says anything.
        let text = format!("{value:.3}");
        let text = text.trim_end_matches('0').trim_end_matches('.').replace('-', "−");
        format!("{text} {}", self.symbol()).trim_end().to_owned()
    }
}

/// One number a request may say.
pub struct Field {
    /// Where it stands: `piece.fat_mm`.
    pub path: &'static str,
    /// What it is counted in.
    pub unit: Unit,
    /// Least and most that is allowed, both included.
    pub range: (f64, f64),
    /// What it is, in a cook's words.
    pub means: &'static str,
    /// What to do where it cannot be.
    pub remedy: &'static str,
    /// The word of the Bench's sentence that says it.
    pub word: &'static str,
    /// What a request says.
    pub get: fn(&PlanRequest) -> Option<f64>,
    /// Writes it into a request.
    pub put: fn(&mut PlanRequest, f64),
    /// What is computed with where nobody says it; `None` where nothing is.
    pub taken: fn(&Resolved) -> Option<f64>,
}

impl Field {
    /// The row of a path; portions share the rows of the piece: `piece.portions[1].weight_g`.
    ///
    /// ```
    /// use rauchkeller_core::plan::Field;
    /// let fat = Field::at("piece.fat_mm").expect("a field");
    /// assert_eq!((fat.allowed().as_str(), fat.word), ("0 to 60 mm", "fat"));
    /// ```
    pub fn at(path: &str) -> Option<&'static Self> {
        FIELDS.iter().find(|field| field.path == path)
    }

    /// The first row that a word of the sentence says.
    pub fn of_word(word: &str) -> Option<&'static Self> {
        FIELDS.iter().find(|field| field.word == word)
    }

    /// Its name within its object: `fat_mm`.
    pub fn leaf(&self) -> &'static str {
        self.path.rsplit('.').next().unwrap_or(self.path)
    }

    /// The object it stands in: `piece`; empty for the request itself.
    pub fn object(&self) -> &'static str {
        self.path.rsplit_once('.').map_or("", |(object, _)| object)
    }

    /// What is allowed, in words: `0 to 60 mm`.
    pub fn allowed(&self) -> String {
        let (low, high) = self.range;
        // A minus sign as it is printed.
        let text = format!("{low} to {high} {}", self.unit.symbol()).replace('-', "−");
        let whole = if self.unit == Unit::Count { "a whole number from " } else { "" };
        format!("{whole}{}", text.trim_end())
    }

    /// Whether it may be so much.
    pub fn allows(&self, value: f64) -> bool {
        (self.range.0..=self.range.1).contains(&value) && (self.unit != Unit::Count || value.fract() == 0.0)
    }

    /// Refuses what is not allowed, said at a path of its own where it stands in a portion.
    pub fn refuse(&self, at: impl Into<std::borrow::Cow<'static, str>>, value: f64) -> Option<Refusal> {
        (!self.allows(value)).then(|| Refusal::new(at, self.unit.write(value), self.allowed(), self.remedy))
    }
}

const NOTHING: fn(&Resolved) -> Option<f64> = |_| None;

/// Every number of a request but those of lists (ledger, done) and of knife and pick, which have rooms of their own.
pub static FIELDS: &[Field] = &[
    Field {
        path: "piece.weight_g",
        unit: Unit::Gram,
        range: (1.0, 60_000.0),
        means: "weight of all portions together, as bought",
        remedy: "Weigh it; without a weight there are no grams.",
        word: "weight",
        // By portion, and what a cut may weigh, say more.
        get: |_| None,
        put: |_, _| {},
        taken: NOTHING,
    },
    Field {
        path: "piece.trimmed_weight_g",
        unit: Unit::Gram,
        range: (1.0, 60_000.0),
        means: "weight after trimming",
        remedy: "Weigh it again; the dose is on what is left.",
        word: "trimmed",
        get: |r| r.trimmed.map(MassIn::in_g),
        put: |r, g| r.trimmed = Some(grams(g)),
        taken: NOTHING,
    },
    Field {
        path: "piece.salt_thickness_mm",
        unit: Unit::Millimetre,
        range: (8.0, 250.0),
        means: "thickness at the thickest place",
        remedy: "Measure the shortest way through at the thickest place again.",
        word: "thick",
        get: |r| r.thickness.map(LengthIn::in_mm),
        put: |r, mm| r.thickness = Some(millimetres(mm)),
        taken: |resolved| Some(resolved.thickness.in_mm()),
    },
    Field {
        path: "piece.thin_mm",
        unit: Unit::Millimetre,
        range: (3.0, 250.0),
        means: "thickness at the thinnest place",
        remedy: "Measure the thinnest place again.",
        word: "thin",
        get: |r| r.thin.map(LengthIn::in_mm),
        put: |r, mm| r.thin = Some(millimetres(mm)),
        taken: NOTHING,
    },
    Field {
        path: "piece.length_mm",
        unit: Unit::Millimetre,
        range: (20.0, 1000.0),
        means: "long side of the face",
        remedy: "Measure the long side again.",
        word: "face",
        get: |r| r.length.map(LengthIn::in_mm),
        put: |r, mm| r.length = Some(millimetres(mm)),
        taken: |resolved| resolved.face_was_guessed().then(|| resolved.measures.length.in_mm()),
    },
    Field {
        path: "piece.width_mm",
        unit: Unit::Millimetre,
        range: (20.0, 1000.0),
        means: "short side of the face",
        remedy: "Measure the short side again.",
        word: "face",
        get: |r| r.width.map(LengthIn::in_mm),
        put: |r, mm| r.width = Some(millimetres(mm)),
        taken: |resolved| resolved.face_was_guessed().then(|| resolved.measures.width.in_mm()),
    },
    Field {
        path: "piece.skin_mm",
        unit: Unit::Millimetre,
        range: (0.0, 10.0),
        means: "thickness of the skin",
        remedy: "Measure the skin at the edge again.",
        word: "skin",
        get: |r| r.skin.map(LengthIn::in_mm),
        put: |r, mm| r.skin = Some(millimetres(mm)),
        taken: |resolved| Some(resolved.skin.in_mm()),
    },
    Field {
        path: "piece.fat_mm",
        unit: Unit::Millimetre,
        range: (0.0, 60.0),
        means: "thickness of the fat",
        remedy: "Measure the fat at the edge again.",
        word: "fat",
        get: |r| r.fat.map(LengthIn::in_mm),
        put: |r, mm| r.fat = Some(millimetres(mm)),
        taken: |resolved| Some(resolved.fat.in_mm()),
    },
    Field {
        path: "piece.fat_min_mm",
        unit: Unit::Millimetre,
        range: (0.0, 60.0),
        means: "fat at its thinnest",
        remedy: "Measure the fat at its thinnest again.",
        word: "fatmin",
        get: |r| r.fat_min.map(LengthIn::in_mm),
        put: |r, mm| r.fat_min = Some(millimetres(mm)),
        taken: |resolved| (resolved.skin.in_mm() > 0.0 || resolved.fat.in_mm() > 0.0).then(|| resolved.fat_min.in_mm()),
    },
    Field {
        path: "piece.bone_fraction",
        unit: Unit::Share,
        range: (0.0, 0.6),
        means: "share of bone",
        remedy: "It is the share of bone in the weight: 0.3 for a duck.",
        word: "bone",
        get: |r| r.bone.map(|share| share.0),
        put: |r, share| r.bone = Some(Share(share)),
        taken: |resolved| Some(resolved.bone.0),
    },
    Field {
        path: "piece.solution.sodium_mg_per_100g",
        unit: Unit::SodiumOnLabel,
        range: (0.0, 3000.0),
        means: "sodium on the packer’s label",
        remedy: "Read the sodium line of the label.",
        word: "label",
        get: |r| if let Some(PackLabel::Sodium(mg)) = r.solution { Some(mg) } else { None },
        put: |r, mg| r.solution = Some(PackLabel::Sodium(mg)),
        taken: NOTHING,
    },
    Field {
        path: "piece.solution.up_to_percent",
        unit: Unit::Percent,
        range: (0.0, 50.0),
        means: "how much solution was added at most, by the label",
        remedy: "Read the line beside the name on the label.",
        word: "label",
        get: |r| if let Some(PackLabel::UpTo(share)) = r.solution { Some(share.0 * 100.0) } else { None },
        // Sodium that was read says more than a most.
        put: |r, percent| {
            r.solution.get_or_insert(PackLabel::UpTo(Share(percent / 100.0)));
        },
        taken: NOTHING,
    },
    Field {
        path: "piece.start_c",
        unit: Unit::Celsius,
        range: (-1.0, 40.0),
        means: "what the middle reads before the heat, measured",
        remedy: "Read a probe in the middle; leave it open, and it is reckoned.",
        word: "start",
        get: |r| r.start.map(TemperatureIn::in_c),
        put: |r, c| r.start = Some(celsius(c)),
        taken: NOTHING,
    },
    Field {
        path: "fire.temper_min",
        unit: Unit::Minute,
        range: (0.0, 480.0),
        means: "time from the refrigerator to the heat, in all",
        remedy: "Say how long it stands out; straight from the cold is 0.",
        word: "temper",
        get: |r| r.fire.temper.map(TimeIn::in_min),
        put: |r, min| r.fire.temper = Some(minutes(min)),
        taken: NOTHING,
    },
    Field {
        path: "fire.preheat_min",
        unit: Unit::Minute,
        range: (0.0, 180.0),
        means: "time until the heat is up",
        remedy: "An oven takes 20 minutes, charcoal 35.",
        word: "preheat",
        get: |r| r.fire.preheat.map(TimeIn::in_min),
        put: |r, min| r.fire.preheat = Some(minutes(min)),
        taken: NOTHING,
    },
    Field {
        path: "fire.rest_min",
        unit: Unit::Minute,
        range: (0.0, 240.0),
        means: "rest after the heat",
        remedy: "Steaks rest 5 minutes, roasts 15 to 30; 0 is no rest.",
        word: "rest",
        get: |r| r.fire.rest.map(TimeIn::in_min),
        put: |r, min| r.fire.rest = Some(minutes(min)),
        taken: NOTHING,
    },
    Field {
        path: "salt.g_per_kg",
        unit: Unit::GramPerKg,
        range: (0.0, 39.9),
        means: "dose of salt",
        remedy: "Choose a dose; 10 is usual.",
        word: "dose",
        get: |r| r.dose.map(|dose| dose.0),
        put: |r, dose| r.dose = Some(GramsPerKg(dose)),
        taken: |resolved| Some(resolved.dose.0),
    },
    Field {
        path: "salt.cover.depth_mm",
        unit: Unit::Millimetre,
        range: (1.0, 30.0),
        means: "depth of the salt on the skin",
        remedy: "Leave it open for 4 mm; 3 to 5 is usual.",
        word: "depth",
        get: |r| r.cover.and_then(|cover| cover.depth).map(LengthIn::in_mm),
        put: |r, mm| r.cover.iter_mut().for_each(|cover| cover.depth = Some(millimetres(mm))),
        taken: NOTHING,
    },
    Field {
        path: "salt.cover.left_g_per_dm2",
        unit: Unit::GramPerDm2,
        range: (0.0, 10.0),
        means: "salt that stays behind on the skin",
        remedy: "It is what stays behind after brushing: about 1 for a crust.",
        word: "left",
        get: |r| r.cover.and_then(|cover| cover.left).map(|left| left.0),
        put: |r, left| r.cover.iter_mut().for_each(|cover| cover.left = Some(GramsPerDm2(left))),
        taken: NOTHING,
    },
    Field {
        path: "mix.g",
        unit: Unit::Gram,
        range: (0.0, 5000.0),
        means: "grams of the mix",
        remedy: "Leave it open, and it is scaled to the piece.",
        word: "also",
        get: |r| r.mix.as_ref().and_then(|mix| mix.asked).map(MassIn::in_g),
        put: |r, g| r.mix.iter_mut().for_each(|mix| mix.asked = Some(grams(g))),
        taken: NOTHING,
    },
    Field {
        path: "hours",
        unit: Unit::Hour,
        range: (0.0, 240.0),
        means: "hours in the refrigerator",
        remedy: "Leave it open, and the clock chooses.",
        word: "hours",
        get: |r| r.hours.map(TimeIn::in_h),
        put: |r, h| r.hours = Some(hours(h)),
        taken: NOTHING,
    },
    Field {
        path: "goal.depth_mm",
        unit: Unit::Millimetre,
        range: (1.0, 200.0),
        means: "how deep the salt is to be",
        remedy: "A day carries salt about 12 mm.",
        word: "goal",
        get: |r| if let Some(Goal::Depth(depth)) = r.goal { Some(depth.in_mm()) } else { None },
        put: |r, mm| r.goal = Some(Goal::Depth(millimetres(mm))),
        taken: NOTHING,
    },
    Field {
        path: "goal.evenness",
        unit: Unit::Share,
        range: (0.05, 0.99),
        means: "the middle’s share of the average salt",
        remedy: "Half as salty in the middle as on the average is usual for a roast.",
        word: "goal",
        get: |r| if let Some(Goal::Evenness(even)) = r.goal { Some(even.0) } else { None },
        put: |r, even| r.goal = Some(Goal::Evenness(Evenness(even))),
        taken: NOTHING,
    },
    Field {
        path: "goal.rim_g_per_kg",
        unit: Unit::GramPerKg,
        range: (1.0, 200.0),
        means: "what the outer 5 mm are to come down to",
        remedy: "Most find 20 to 25 g/kg pleasant in the first bite.",
        word: "goal",
        get: |r| if let Some(Goal::Rim(rim)) = r.goal { Some(rim.0) } else { None },
        put: |r, rim| r.goal = Some(Goal::Rim(GramsPerKg(rim))),
        taken: NOTHING,
    },
    Field {
        path: "goal.skin_dryness",
        unit: Unit::Share,
        range: (0.05, 1.0),
        means: "how dry the skin is to be",
        remedy: "Skin crackles from 95 % dry.",
        word: "goal",
        get: |r| if let Some(Goal::Dryness(dry)) = r.goal { Some(dry.0) } else { None },
        put: |r, dry| r.goal = Some(Goal::Dryness(Dryness(dry))),
        taken: NOTHING,
    },
    Field {
        path: "servings",
        unit: Unit::Count,
        range: (1.0, 200.0),
        means: "number of guests",
        remedy: "Count the plates; the sodium is per plate.",
        word: "servings",
        get: |r| r.servings.map(f64::from),
        put: |r, n| r.servings = Some(n as u32),
        taken: |resolved| Some(f64::from(resolved.servings)),
    },
    Field {
        path: "kitchen.fridge_c",
        unit: Unit::Celsius,
        range: (-2.0, 15.0),
        means: "temperature of the refrigerator",
        remedy: "A refrigerator stands at 0 to 4 °C.",
        word: "",
        get: |r| Some(r.kitchen.fridge.temperature.in_c()),
        put: |r, c| r.kitchen.fridge.temperature = celsius(c),
        taken: |resolved| Some(resolved.air.temperature.in_c()),
    },
    Field {
        path: "kitchen.fridge_rh",
        unit: Unit::Share,
        range: (0.05, 0.99),
        means: "relative humidity of its air",
        remedy: "50 % is 0.5.",
        word: "",
        get: |r| Some(r.kitchen.fridge.humidity.0),
        put: |r, rh| r.kitchen.fridge.humidity = RelativeHumidity(rh),
        taken: |resolved| Some(resolved.air.humidity.0),
    },
    Field {
        path: "kitchen.fridge_h_w_m2k",
        unit: Unit::HeatTransfer,
        range: (0.5, 40.0),
        means: "how fast its air takes heat and water",
        remedy: "Still air is 4 to 5, a fan 8.",
        word: "",
        get: |r| Some(r.kitchen.fridge.h.0),
        put: |r, h| r.kitchen.fridge.h = HeatTransfer(h),
        taken: |resolved| Some(resolved.air.h.0),
    },
    Field {
        path: "kitchen.room_c",
        unit: Unit::Celsius,
        range: (5.0, 50.0),
        means: "temperature of the kitchen",
        remedy: "Kitchens stand at 15 to 35 °C; leave it open if nobody knows.",
        word: "room",
        get: |r| r.kitchen.room.map(TemperatureIn::in_c),
        put: |r, c| r.kitchen.room = Some(celsius(c)),
        taken: NOTHING,
    },
];

/// Refuses every number of a request that is not allowed.
pub(crate) fn out_of_range(request: &PlanRequest) -> impl Iterator<Item = Refusal> {
    FIELDS.iter().filter_map(|field| field.refuse(field.path, (field.get)(request)?))
}

#[cfg(test)]
mod tests;
