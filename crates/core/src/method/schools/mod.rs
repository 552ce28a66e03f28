//! The schools as data: one document each, in the table [`methods`]. Source: TRADE 7, 9, 11.

mod crackling;
mod dry;
mod fire_first;
mod wet;
mod writing;

use super::school::{Method, Opens};
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

    /// The school proposed first for a cut: of the plain ones the one that leaves bare the skin over its fat, and where there is none
    /// to leave bare the one that cuts into nothing.
    pub fn first_for(cut: Cut) -> Self {
        // A test holds that every cut has one.
        METHODS.iter().find(|method| method.is_proposed_for(cut)).unwrap_or(&METHODS[0]).clone()
    }

    fn is_proposed_for(&self, cut: Cut) -> bool {
        let bare = cut.has_fat_window();
        let whole = self.opens() == Opens::Whole;
        self.is_plain() && self.fits(cut) && self.says.bare_skin == bare && (bare || whole)
    }

    /// The schools written for a cut, the one proposed first before the others.
    pub fn all_for(cut: Cut) -> impl Iterator<Item = &'static Self> {
        METHODS.iter().filter(move |method| method.fits(cut))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Skin over fat is dried in the open air, everything else is dry-brined: each by what cut and school say of themselves, not by
    /// where they stand in the list.
    #[test]
    fn every_cut_is_proposed_the_plainest_school_for_it() {
        for cut in Cut::all() {
            assert_eq!(METHODS.iter().filter(|method| method.is_proposed_for(cut)).count(), 1, "{}", cut.id);
            assert_eq!(Method::first_for(cut).id, if cut.has_fat_window() { "open-air" } else { "dry-brine" }, "{}", cut.id);
        }
    }
}
