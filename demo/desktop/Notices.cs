using System;
using System.Collections.Generic;
using System.Linq;

namespace Tidewatch.Desktop
{
    /// <summary>Notices that a harbour has put up.</summary>
    public class Notices
    {
        #region Storage
        private readonly List<Notice> open = new List<Notice>();

        public int Count => open.Count;
        #endregion

        public string Title { get; set; } = "Harbour notices";

        [Obsolete("use Withdraw")]
        public bool Remove(string station) { return Withdraw(station) > 0; }

        public int Withdraw(string station)
        {
            var gone = open.Where(n => n.Station == station).ToList();
            foreach (var notice in gone) { open.Remove(notice); }
            // FIXME: tell the board, too
            return gone.Count;
        }
    }

    public record Notice(string Station, DateTime Until);
}
