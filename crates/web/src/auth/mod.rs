//! Who is there: sign-up, sign-in, sessions, and the extractor that is the authorisation.

mod account;
mod backend;
mod browser;
mod extract;
mod hashing;
mod pages;
mod password;
mod session_store;

pub use account::{account, change_password, end_others};
pub use browser::Visitor;
pub use extract::{MaybeCook, SignedIn};
pub use hashing::{Whose, at_the_door, hash};
pub use pages::{NewCook, enter_as, enter_demo, sign_in, sign_in_page, sign_out, sign_up, sign_up_page, wrong_with_cook};

use crate::state::AppState;
use axum::Router;
use axum_login::tower_sessions::cookie::SameSite;
use axum_login::tower_sessions::cookie::time::Duration;
use axum_login::tower_sessions::{Expiry, SessionManagerLayer};
use axum_login::{AuthManagerLayerBuilder, AuthSession};
use backend::Backend;
use session_store::MariaSessions;

pub(crate) type Session = AuthSession<Backend>;

/// How long a kitchen stays signed in without being used.
const IDLE_DAYS: i64 = 30;

/// Puts sessions around the pages that need them.
pub fn with_sessions(pages: Router<AppState>, state: &AppState) -> Router<AppState> {
    let secure = state.settings.is_secure();
    let sessions = SessionManagerLayer::new(MariaSessions(state.store.clone()))
        // A `__Host-` cookie is bound to this host and TLS; plain http on loopback cannot set one.
        .with_name(if secure { "__Host-rauchkeller" } else { "rauchkeller" })
        .with_secure(secure)
        .with_http_only(true)
        .with_same_site(SameSite::Lax)
        .with_path("/")
        .with_expiry(Expiry::OnInactivity(Duration::days(IDLE_DAYS)));
    pages.layer(AuthManagerLayerBuilder::new(Backend(state.store.clone()), sessions).build())
}
