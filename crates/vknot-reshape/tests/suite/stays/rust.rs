//! What people keep in Rust.

use super::Case;

pub(super) const KEPT: &[Case] = &[
    ("what a type is not", "rust", &[], "\
impl !Sync for Gauge {}

impl<T: Copy> !Send for Levels<T> {}
"),
    ("blocks of one line where a setting keeps them", "rust", &["vknot_break_block=keep"], "\
impl Gauge {
    fn high(&self) -> u32 { self.high }
    fn low(&self) -> u32 { self.low }

    fn turn(&mut self) {
        if self.closed { return; }
        self.open();
    }
}
"),
    ("blocks as arguments, guards and heads that break, what follows a list, clauses behind types", "rust", &[], "\
trait Gauge {
    type Levels<'a>: Iterator<Item = &'a Level>
    where
        Self: 'a,
        Level: 'a;

    fn read(&self) -> Level
    where
        Self: Sized;
}

type Board<T>
    = Vec<Level<T>>
where
    T: Copy;

unsafe impl HasField<
    ClientOfTheWholeNetwork,
    { gauge_of_the_station!(high) },
    { FIRST_LEVEL_OF_THE_STATION + 1 },
> for Board {
    const ROOM: usize = 4;
}

fn room<const N: usize>(levels: Levels<{ N + 1 }>) -> [u8; { N }] {
    for ((high, low), level) in
        highs_of_the_network.iter().zip(&lows_of_the_network).zip(&mut levels)
    {
        *level = high - low;
    }
    match levels.kind() {
        Kind::High(level)
            if level.is_steady() => {}
        _ if levels.are_all_steady_at_the_stations_of_the_network()
            && levels.are_all_known_at_the_stations_of_the_network() =>
        {
            wait();
        }
    }
    if levels.compared(
        \"the first of all the stations of the network\",
        \"the last of all the stations of the network\",
    ) == Less
    {
        wait();
    }
    levels.bytes()
}

async fn turn() {
    poll(|station| {
        station.read();
    })
    .await
    .0
    .expect(\"a level\");
    poll(|station| {
        station.read();
    }).level
        .expect(\"a level\");
}
"),
    ("tables of numbers as arguments, with signs in front of some", "rust", &[], "\
fn bend() -> Matrix {
    Matrix::new(
         3.0,  2.0,  0.0,
        -3.0,  0.0, 10.5,
    )
}
"),
    ("ranges without a start", "rust", &[], "\
fn warn() {
    let low = &levels[..=zone];
    let lower = &levels[..zone];
    match level {
        ..=3 => tell(..),
        4.. => tell(1..=2),
    }
    (_, level) = next();
}
"),
    (
        "attributes of fields, blocks behind words, ends of ranges, values of jumps, statements behind macros",
        "rust",
        &[],
        "\
fn open(known: &usize) -> Board {
    let waker =
        unsafe { Waker::from_raw(RawWaker::new(Arc::into_raw(gauge_of_the_bay) as *const _, TABLE)) };
    levels.drain(..*known);
    levels.range(..&last);
    let part = &levels[*known..*known + 1];
    loop {
        break (Operation::Read(Err(level)), part);
    }
    tides::pin! {
        let high = one();
        let low = two();
    }

    (&mut high).wait();
    warn! {
        low
    }
    *known = -1;
    network.spawn(async move { while board.next().await.is_some() {} });
    Board {
        part,
        #[cfg(feature = \"waker\")]
        waker,
    }
}
",
    ),
    ("imports, texts and macros that are wider than all other lines", "rust", &[], "\
use crate::network::station::gauge::{GaugeOfTheBay, GaugeOfTheQuay, LevelOfTheBay, Tide};
use crate::zone::Zone;

fn warn() {
    read().expect(\"a level that is higher than all the levels of the last hundred years\");
    match zone() {
        Zone::High => panic!(\"the zone is higher than any of the others, {} and {}\", 1, 2),
        Zone::Low => tell(\"no zone that is low, as is written in the book of the oldest of all the stations of the whole outer coast\"),
    }
}
"),
    ("patterns and guards over lines, heads that only the brace makes too wide", "rust", &[], "\
fn turn() {
    match spawn(station, level) {
        Err(ref error)
            if is_passing_error(error)
                && self.number_of_stations() > 0 =>
        {
            wait();
        }
        \"high\" | \"low\" | \"ebb\" | \"flood\" | \"spring\" | \"neap\"
        | \"slack\" | \"surge\" => wait(),
        _ => {}
    }
    if let Reading::High(High { level: None, .. })
    | Reading::Low(Low { level: None, .. })
    | Reading::Ebb(Ebb { level: None, .. }) = reading
    {
        wait();
    }
    if let Some((unexpected_level, the_station)) = level_of_the_network_without_a_doubt(self.zone())
    {
        wait();
    }
    if let (Some(level_of_the_gauge), Some(station)) =
        (level_below(root, &station.path, false, errors), &station.key)
    {
        wait();
    }
    let Some(level_of_the_gauge): Option<Level> =
        station.gauges().level(&name)?
    else {
        return;
    };
}
"),
    ("values that begin below what they are for, and what follows brackets", "rust", &[], "\
fn sum() {
    let compare =
        |high: &Station, level: &Level, low: &Station, other: &Level| -> std::cmp::Ordering {
            compared(high, level, low, other)
        };
    let reader =
        || Reader::new().between(Zone::BetweenTheQuayAndTheLightOfTheSkerryAndTheBay).read();
    self.levels_of(
        &network,
        if stations.is_empty() {
            Source::TheGaugeOfTheBay
        } else {
            Source::TheGaugeOfTheQuay
        },
    )?
    .inner
    .read();
    let level = unsafe {
        open();
        read()
    }
    .0;
    if 0 == level_of_the_system(
        null(), // the bay
        &system,
        level.as_mut(),
    ) {
        wait();
    }
    return Err(
        Problem::LevelOutOfTheRangeOfTheGaugeThatStandsInTheBayOfTheOldestStation.into_problem()
    );
}
"),
    ("heads of implementations over lines", "rust", &[], "\
impl<
        const DEEP: bool,
        E: Station + Gauge + for<'a> Reader<Level<'a> = Self>,
        T: Tide<E>,
    > Board<E> for Network<DEEP, E, T>
{
    const HIGH: u32 = 1;
}

impl<T: Station, E: Gauge, I: Level<Item = Result<T, E>>> Reader
    for LevelsOfTheNetwork<I>
{
}

impl<T, Conn> Levels<Conn> for T where
    T: Copy + Station
{
}

impl<S> Collector for Board<S>
where S: Station + Send + Sync + 'static
{
    fn lower<D2: Station, S2>(&self, board: &BoardOf<T, D2, S2>, levels: &mut Vec<usize>)
    where
        S2: Gauge,
    {
        read();
    }
}

fn configured()
-> Result<(StationConfiguration, LevelOfTheBay<'static>), Box<dyn Error + Send + Sync + 'static>> {
    read()
}
"),
    ("rules of macros: what closes an item stands with it, what stands in front of the brace, too", "rust", &[], "\
macro_rules! stations {
    ( $name:ident, $first:expr,
      [ $( $level:expr ),* ] ) => {
        $(
            pub fn level(&self) -> Level
                where Self: Sized {
                self.read($level)
            }

            pub fn warn(first: Level,
                        last: Level) -> Level {
                first
            }
        )*
    };
    ($station:ty => $item:ty ,
     impl $( $rest:tt )*
     ) => {
        impl $( $rest )* Station for $station {
            type Item = $item;
        }
    }
}

fn read() {}
"),
    ("a value that begins with a mark and goes on for more lines than what is before it", "rust", &[], "\
impl Gauge {
    fn is_set(&self) -> bool {
        // All of them.
        let Self { zero, low, mean, high, spring, neap } = self;
        *zero
            || *low
            || *mean
            || *high
            || *spring
            || *neap
            || *self.level
            || *self.tide
    }
}
"),
];
