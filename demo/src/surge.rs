//! Works out surges from the readings of neighbouring stations.
use std::fmt;
use crate::station::{Station,StationId};
use std::collections::HashMap;
use std::collections::{BTreeMap, HashSet};
use crate::station::Reading;

/// How far a level is above the tide that was foretold.
#[derive(Debug, Clone, PartialEq)]
pub struct Surge{pub station:StationId,pub metres:f64, pub lasting_minutes:u32}

impl fmt::Display for Surge {
fn fmt(&self,f:&mut fmt::Formatter<'_>)->fmt::Result{
write!(f, "{:+.2} m at {} for {} min", self.metres, self.station, self.lasting_minutes)
}
}

pub enum Level { Quiet, Watch{since_minutes:u32}, Warning(f64) }

/// Finds the surge of every station that has readings.
pub fn find_surges(stations:&[Station],foretold:&HashMap<StationId,f64>,threshold_in_metres:f64)->Result<Vec<Surge>,MissingTide>{
    let mut surges=Vec::new();
    let mut seen=HashSet::new();
    for station in stations{
        if !seen.insert(station.id){continue;}
        let Some(expected)=foretold.get(&station.id) else{return Err(MissingTide{station:station.id})};
        let highest=station.readings.iter().filter(|reading|!reading.doubtful).map(|reading|reading.level).fold(f64::MIN,f64::max);
        let level=if highest-expected>threshold_in_metres{Level::Warning(highest-expected)}else{Level::Quiet};
        match level{
            Level::Warning(metres)=>surges.push(Surge{station:station.id,metres,lasting_minutes:duration_above(&station.readings,*expected+threshold_in_metres)}),
            Level::Watch{..}|Level::Quiet=>{}
        }
    }
    surges.sort_by(|a,b|b.metres.total_cmp(&a.metres)); // the highest first
    Ok(surges)
}

fn duration_above(readings:&[Reading],level:f64)->u32{
      // Readings come once a minute.
  let table=[1,2,3,
     5,8,13];
      readings.iter().filter(|reading| reading.level>level).count() as u32*table[0] }

#[derive(Debug)] pub struct MissingTide{pub station:StationId}
pub type ByRegion = BTreeMap<String,Vec<Surge>>;
