package net.tidewatch.stations;

import java.util.List;
import java.util.ArrayList;
import static java.util.stream.Collectors.toList;
import net.tidewatch.stations.Reading;
import java.time.Duration;
import java.util.List;
import java.time.Instant;
import java.util.Map;
import java.lang.String;
import net.tidewatch.warnings.*;
import java.util.concurrent.ConcurrentHashMap;

/** A tide gauge: one instrument at one station.
 *  Readings older than the {@link Duration} given are dropped.
   */
public class Gauge implements Comparable<Gauge>
{
  private final String station; private final double datum;   // metres above chart zero
    private final List<Reading> readings=new ArrayList<>( );
  private final Map<Instant,Double> corrections = new ConcurrentHashMap<>();
  private static final double[] SURGE_STEPS={0.25,0.5,
      1.0,1.5};
  enum State{QUIET,WATCH,WARNING,ALARM}

	public Gauge(String station,double datum){
	this.station=station;
		this.datum = datum;
	}
  @Override public int compareTo(Gauge other){ return station.compareTo( other.station ); }

  /**
  * Takes a reading in.
      * @param reading what the float measured
   * @return whether it was plausible
  */
  public boolean record(Reading reading, Duration maximumAge, boolean correctForPressure, double pressureInHectopascals) {
    if(reading==null||reading.level()<-5)return false;
        if (correctForPressure)
          corrections.put(reading.time(), (1013.25-pressureInHectopascals)*0.01);
    else
    {
      // nothing to correct
    }
    readings.add(reading);
      readings.removeIf(old -> old.time().plus(maximumAge).isBefore(reading.time()) && !old.isPinned() || old.level() < datum - 9);
    return true; }

  State state() {
        double surge=highest( )-datum;
    switch(surge>1.5?3:surge>1.0?2:surge>0.5?1:0){
    case 3: return State.ALARM;
      case 2:
    case 1: notifyHarbour("Surge of " + surge + " metres at " + station + ", expected to last until the next low water", State.WARNING);
        return State.WARNING;
    default:
        return State.QUIET;
    }
  }

  double highest( ) {
    return readings.stream().filter(reading -> !reading.isDoubtful()).mapToDouble(reading -> reading.level() + corrections.getOrDefault(reading.time(), 0.0)).max().orElse(datum);
  }

 private void notifyHarbour(String text,State state){
 harbourOffice.submit(() -> { Notice notice=new Notice(text,state); notice.send();  log(notice); });
 }
  List<Reading> doubtful() { return readings.stream().filter(Reading::isDoubtful).collect(toList()); }
}
