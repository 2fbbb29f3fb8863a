//! What a keeper and its visitors send each other: a letter, a length, and so many bytes.

use std::io::{Error, ErrorKind, Read, Write};

use serde::{Deserialize, Serialize};

/// The most bytes that one message may have: code that is longer does not come from a file that people write.
const LENGTH_AT_MOST: u32 = 64 * 1024 * 1024;

/// A message.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Message {
    /// Run this.
    Run(Piece),
    /// Interrupt what runs.
    Interrupt,
    /// Say how you are.
    Ask,
    /// End the sitting.
    End,
    /// The code wrote this to its output.
    Output(Vec<u8>),
    /// The code wrote this to its errors.
    Errors(Vec<u8>),
    /// The code has run, with this status.
    Done(u8),
    /// The interpreter has ended, with this status; so has the sitting.
    Ended(u8),
    /// How the sitting is.
    State(State),
}

/// Code to run.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Piece {
    /// By what messages are to call it.
    pub name: String,
    pub code: String,
}

/// How a sitting is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
pub struct State {
    /// Whether something runs.
    pub busy: bool,
    /// How many pieces have run, or are running.
    pub runs: u32,
    /// Seconds since the last of them ended.
    pub idle: u64,
}

/// Sends a message.
///
/// # Errors
/// When the other side is gone.
pub fn send(to: &mut impl Write, message: &Message) -> std::io::Result<()> {
    let (letter, bytes) = match message {
        Message::Run(piece) => (b'r', serde_json::to_vec(piece)?),
        Message::Interrupt => (b'i', Vec::new()),
        Message::Ask => (b'a', Vec::new()),
        Message::End => (b'q', Vec::new()),
        Message::Output(bytes) => (b'o', bytes.clone()),
        Message::Errors(bytes) => (b'e', bytes.clone()),
        Message::Done(status) => (b'd', vec![*status]),
        Message::Ended(status) => (b'x', vec![*status]),
        Message::State(state) => (b's', serde_json::to_vec(state)?),
    };
    let length = u32::try_from(bytes.len()).ok().filter(|length| *length <= LENGTH_AT_MOST);
    let length = length.ok_or_else(|| Error::new(ErrorKind::InvalidInput, "there is too much of it"))?;
    to.write_all(&[&[letter], length.to_le_bytes().as_slice(), &bytes].concat())?;
    to.flush()
}

/// Waits for a message.
///
/// # Errors
/// When the other side is gone, or says something else.
pub fn receive(from: &mut impl Read) -> std::io::Result<Message> {
    let mut head = [0; 5];
    from.read_exact(&mut head)?;
    let [letter, length @ ..] = head;
    let length = u32::from_le_bytes(length);
    if length > LENGTH_AT_MOST {
        return Err(ErrorKind::InvalidData.into());
    }
    let mut bytes = Vec::new();
    from.take(u64::from(length)).read_to_end(&mut bytes)?;
    if bytes.len() != length as usize {
        return Err(ErrorKind::UnexpectedEof.into());
    }
    let status = bytes.first().copied().unwrap_or(0);
    Ok(match letter {
        b'r' => Message::Run(serde_json::from_slice(&bytes)?),
        b'i' => Message::Interrupt,
        b'a' => Message::Ask,
        b'q' => Message::End,
        b'o' => Message::Output(bytes),
        b'e' => Message::Errors(bytes),
        b'd' => Message::Done(status),
        b'x' => Message::Ended(status),
        b's' => Message::State(serde_json::from_slice(&bytes)?),
        _ => return Err(ErrorKind::InvalidData.into()),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_sent_is_received() {
        let piece = Piece { name: "surge.py".to_owned(), code: "\n\nprint(1)\n".to_owned() };
        for message in [
            Message::Run(piece),
            Message::Interrupt,
            Message::Ask,
            Message::End,
            Message::Output(vec![0, 255, 30]),
            Message::Errors(Vec::new()),
            Message::Done(3),
            Message::Ended(255),
            Message::State(State { busy: true, runs: 2, idle: 7 }),
        ] {
            let mut sent = Vec::new();
            send(&mut sent, &message).unwrap();
            assert_eq!(receive(&mut sent.as_slice()).unwrap(), message);
            sent.pop();
            let cut = receive(&mut sent.as_slice());
            assert!(cut.is_err(), "{message:?} cut off is {cut:?}");
        }
        assert!(receive(&mut [b'o', 255, 255, 255, 255].as_slice()).is_err());
        assert!(receive(&mut [b'?', 0, 0, 0, 0].as_slice()).is_err());
    }
}
