//! The Kit: own salts, mixes and scales. Things are made where the work meets them and hang here afterwards.

mod heat;
mod mixes;
mod page;
mod salts;
mod scales;
mod shelf;
mod ways;

pub use heat::set_heat;
pub use mixes::{add_mix, mix_page};
pub use page::{page, remove, restore};
pub use salts::{add_salt, salt_page};
pub use scales::{add_program, add_scale, new_token, pair_scale};
#[cfg(test)]
pub use shelf::OwnWay;
pub use shelf::{Shelf, mix_json, salt_json};
pub use ways::{
    add as add_way, change as change_way, copy as copy_way, copy_address, give_out, keep_anew as keep_way, page as way_page, take_in,
    take_in_page,
};

use uuid::Uuid;

/// A form's key, so that sending it twice makes one thing; a new one where there is none.
pub fn form_key(given: &str) -> String {
    if Uuid::parse_str(given).is_ok() { given.to_owned() } else { Uuid::now_v7().to_string() }
}

/// A number as a cook types it: `5,3`, `5.3 g`, `97 %`.
fn number(typed: &str, unit: &str) -> Option<f64> {
    let bare = typed.trim().trim_end_matches(unit).trim().replace(',', ".");
    bare.parse().ok().filter(|n: &f64| n.is_finite())
}

/// Where a form leads back to: a path of this site, nothing else.
fn back(given: &str) -> String {
    // Browsers drop tabs and line ends before they read an address, and take a backslash for a slash.
    let inside = given.starts_with('/') && !given.starts_with("//") && !given.contains(|c: char| c == '\\' || c.is_control());
    if inside && given.len() < 2000 { given.to_owned() } else { "/kit".into() }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_form_leads_only_to_this_site() {
        assert_eq!(back("/bench?cut=pork-belly"), "/bench?cut=pork-belly");
        for outside in [
            "https://elsewhere.example/",
            "//elsewhere.example",
            "/\\elsewhere.example",
            "javascript:x",
            "/a\r\nSet-Cookie: x",
            "/\t/elsewhere.example",
            "/\n/elsewhere.example",
        ] {
            assert_eq!(back(outside), "/kit", "{outside}");
        }
    }

    #[test]
    fn numbers_as_cooks_type_them() {
        assert_eq!((number("97 %", "%"), number("5,3", "g"), number(" 0.4 g ", "g")), (Some(97.0), Some(5.3), Some(0.4)));
        assert_eq!((number("much", "g"), number("", "g")), (None, None));
    }
}
