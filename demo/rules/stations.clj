(ns tidewatch.stations
  "The stations and what they have measured."
  (:require [clojure.string :as str]))

(def ^:private threshold 0.4)

(defrecord Station [name levels])

(defn surge
  "How far the highest level is above the threshold."
  [{:keys [levels]}]
  (let [high (reduce max 0 levels)]
    (when (> high threshold)
      {:metres (- high threshold), :tags #{:watch}})))

#_(defn old [] nil)

(defn parse [line]
  #?(:clj  (let [[_ name level] (re-matches #"(\w+):\s*([\d.]+)" line)]
        (->Station (str/trim name) [(Double/parseDouble level)])) ; TODO: units
     :cljs nil))
