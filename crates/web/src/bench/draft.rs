//! The sentence that lies on the Bench while the cook is elsewhere: a small cookie of this browser, bound to the cook.

use crate::state::AppState;
use axum::http::{HeaderMap, HeaderName, header};
use axum::response::AppendHeaders;
use rauchkeller_store::CookId;

const NAME: &str = "rauchkeller-bench";
/// Longer sentences are not kept; a browser takes 4 KB.
const MOST: usize = 3000;

type Cookie = AppendHeaders<[(HeaderName, String); 1]>;

fn cookie(state: &AppState, value: &str, seconds: u32) -> Cookie {
    let secure = if state.settings.is_secure() { "; Secure" } else { "" };
    AppendHeaders([(header::SET_COOKIE, format!("{NAME}={value}; Path=/bench; Max-Age={seconds}; HttpOnly; SameSite=Lax{secure}"))])
}

/// Leaves the Bench's address lying for three days.
pub(super) fn keep(state: &AppState, cook: CookId, address: &str) -> Cookie {
    match address.strip_prefix("/bench?").filter(|query| query.len() <= MOST) {
        Some(query) => cookie(state, &format!("{cook}?{query}"), 3 * 86_400),
        None => clear(state),
    }
}

/// Nothing lies there any more.
pub(super) fn clear(state: &AppState) -> Cookie {
    cookie(state, "", 0)
}

/// The address that was left lying by this cook.
pub(super) fn of(headers: &HeaderMap, cook: CookId) -> Option<String> {
    let cookies = headers.get_all(header::COOKIE).iter().filter_map(|v| v.to_str().ok()).flat_map(|all| all.split(';'));
    let mut cookies = cookies;
    let mine = cookies.find_map(|pair| pair.trim().strip_prefix(NAME)?.strip_prefix('='))?;
    let (who, query) = mine.split_once('?')?;
    // Only what this program writes there: a form-encoded query.
    let plain = |c: char| c.is_ascii_alphanumeric() || "=&%+-._*".contains(c);
    (who == cook.to_string() && !query.is_empty() && query.len() <= MOST && query.chars().all(plain)).then(|| format!("/bench?{query}"))
}
