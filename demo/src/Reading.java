package net.tidewatch.stations;

import java.time.Instant;

/** One measured level. */
public record Reading(Instant time,double level,boolean isDoubtful,boolean isPinned)
{
    public Reading{ if(level>20){throw new IllegalArgumentException("a level of "+level+" metres is higher than the sea wall");} }
    static Reading at(Instant time,double level){return new Reading(time,level,false,false);}
}
