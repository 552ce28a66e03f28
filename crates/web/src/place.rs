//! Where a request comes from: what is counted per visitor is counted by this.

use axum::extract::{ConnectInfo, Request};
use axum::http::HeaderMap;
use std::fmt;
use std::net::{IpAddr, Ipv6Addr, SocketAddr};
use tower_governor::GovernorError;
use tower_governor::key_extractor::KeyExtractor;

/// A place on the net: an IPv4 address, or the /64 of an IPv6 one, which one visitor has to themselves.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Place(IpAddr);

impl Default for Place {
    /// Nowhere in particular: a request that came over no socket.
    fn default() -> Self {
        Self(IpAddr::V6(Ipv6Addr::UNSPECIFIED))
    }
}

impl From<IpAddr> for Place {
    fn from(address: IpAddr) -> Self {
        Self(match address.to_canonical() {
            IpAddr::V4(v4) => IpAddr::V4(v4),
            IpAddr::V6(v6) => {
                let [a, b, c, d, ..] = v6.segments();
                IpAddr::V6(Ipv6Addr::new(a, b, c, d, 0, 0, 0, 0))
            }
        })
    }
}

impl fmt::Display for Place {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.fmt(f)
    }
}

impl Place {
    /// The peer, or what a named proxy says of whom it speaks for: the last address in its list that is no named proxy itself.
    /// Anybody else's word is not believed.
    pub fn of(peer: IpAddr, headers: &HeaderMap, proxies: &[IpAddr]) -> Self {
        let named = |address: &IpAddr| proxies.iter().any(|proxy| proxy.to_canonical() == address.to_canonical());
        if !named(&peer) {
            return peer.into();
        }
        let said = headers.get_all("x-forwarded-for").iter().filter_map(|value| value.to_str().ok());
        let said: Vec<&str> = said.flat_map(|list| list.split(',')).map(str::trim).collect();
        let mut before = peer;
        for said in said.iter().rev() {
            // What is no address ends the list: nothing before it was written by a proxy of ours.
            let Ok(address) = said.parse::<IpAddr>() else { break };
            before = address;
            if !named(&address) {
                break;
            }
        }
        before.into()
    }

    /// The place a request was found to come from.
    pub fn of_request<B>(request: &axum::http::Request<B>) -> Self {
        request.extensions().get::<Self>().copied().unwrap_or_default()
    }
}

/// Finds out where a request comes from, once, for all that count by it.
pub fn find_place(request: &mut Request, proxies: &[IpAddr]) {
    let peer = request.extensions().get::<ConnectInfo<SocketAddr>>().map(|peer| peer.0.ip());
    let place = peer.map_or_else(Place::default, |peer| Place::of(peer, request.headers(), proxies));
    request.extensions_mut().insert(place);
}

/// Floods are counted by place.
#[derive(Debug, Clone, Copy)]
pub struct ByPlace;

impl KeyExtractor for ByPlace {
    type Key = Place;

    fn extract<T>(&self, request: &axum::http::Request<T>) -> Result<Place, GovernorError> {
        Ok(Place::of_request(request))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn place(peer: &str, said: Option<&str>, proxies: &[&str]) -> String {
        let mut headers = HeaderMap::new();
        if let Some(said) = said {
            headers.insert("x-forwarded-for", said.parse().unwrap());
        }
        let proxies: Vec<IpAddr> = proxies.iter().map(|proxy| proxy.parse().unwrap()).collect();
        Place::of(peer.parse().unwrap(), &headers, &proxies).to_string()
    }

    #[test]
    fn only_a_named_proxy_is_believed_and_only_its_own_word() {
        assert_eq!(place("192.0.2.7", Some("198.51.100.1"), &[]), "192.0.2.7", "nobody was named");
        assert_eq!(place("192.0.2.7", Some("198.51.100.1"), &["127.0.0.1"]), "192.0.2.7", "another was named");
        assert_eq!(place("127.0.0.1", Some("203.0.113.9, 198.51.100.1"), &["127.0.0.1"]), "198.51.100.1", "the last one is the proxy's");
        let chain = ["127.0.0.1", "198.51.100.1"];
        assert_eq!(place("127.0.0.1", Some("203.0.113.9, 198.51.100.1"), &chain), "203.0.113.9", "through two proxies of ours");
        assert_eq!(place("127.0.0.1", Some("203.0.113.9, nonsense"), &["127.0.0.1"]), "127.0.0.1", "what is no address is nobody");
        assert_eq!(place("127.0.0.1", None, &["127.0.0.1"]), "127.0.0.1");
    }

    #[test]
    fn a_visitor_has_a_whole_64_of_ipv6_and_one_address_of_ipv4() {
        assert_eq!(place("2001:db8:1:2:3:4:5:6", None, &[]), place("2001:db8:1:2:ffff::1", None, &[]));
        assert_ne!(place("2001:db8:1:2::1", None, &[]), place("2001:db8:1:3::1", None, &[]));
        assert_eq!(place("::ffff:192.0.2.7", None, &[]), "192.0.2.7", "an IPv4 address that came as an IPv6 one");
    }
}
