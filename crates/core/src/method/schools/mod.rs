//! The schools as data: one document each, in the table [`methods`]. Source: TRADE 7, 9, 11.

mod crackling;
mod dry;
mod fire_first;
mod wet;
mod writing;

use super::school::Method;
use crate::piece::Cut;
use std::sync::LazyLock;

/// Every school this kitchen knows, the two that are proposed first before the others.
static METHODS: LazyLock<Vec<Method>> = LazyLock::new(|| {
    let schools = [
        crackling::open_air(),
        dry::dry_brine(),
        crackling::short_draw(),
        crackling::same_day_crust(),
        crackling::acid_soda(),
        crackling::weighted_bed(),
        crackling::scored_fierce_low(),
        dry::fat_cap(),
        dry::bird_scored(),
        dry::bird_pierced(),
        wet::paste(),
        wet::boxed_paste(),
        wet::marinade(),
        wet::stuffed_slits(),
        wet::spiked_loin(),
        wet::lattice_slab(),
        fire_first::grooved_braise(),
        fire_first::braised_ahead(),
        fire_first::strips_direct(),
        fire_first::wrapped_smoke(),
        fire_first::no_cold_rest(),
        fire_first::salt_after_cold(),
    ];
    schools.into_iter().map(Method::from).collect()
});

/// Every school, as it is listed.
pub fn methods() -> &'static [Method] {
    &METHODS
}

impl Method {
    /// Looks a school up by its stable name.
    pub fn find(id: &str) -> Option<Self> {
        METHODS.iter().find(|method| method.id == id).cloned()
    }

    /// The school proposed first for a cut: open-air where skin lies over fat, else the plain one.
    pub fn first_for(cut: Cut) -> Self {
        METHODS[usize::from(!cut.has_fat_window())].clone()
    }

    /// The schools written for a cut, the one proposed first before the others.
    pub fn all_for(cut: Cut) -> impl Iterator<Item = &'static Self> {
        METHODS.iter().filter(move |method| method.fits(cut))
    }
}
