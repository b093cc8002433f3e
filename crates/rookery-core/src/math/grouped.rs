//! Writing large counts.

/// A count with a thin space between thousands.
pub fn grouped(count: u64) -> String {
    let digits = count.to_string();
    let mut out = String::with_capacity(digits.len() * 2);
    for (i, digit) in digits.chars().enumerate() {
        if i > 0 && (digits.len() - i).is_multiple_of(3) {
            out.push('\u{202f}');
        }
        out.push(digit);
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn thousands_are_parted() {
        assert_eq!(grouped(7), "7");
        assert_eq!(grouped(1000), "1\u{202f}000");
        assert_eq!(grouped(51_840_000), "51\u{202f}840\u{202f}000");
    }
}
